import { show as core, wall as walls } from '@deep-patch/core';
import { useShow } from '../live/workspace.tsx';
import { ChoiceField, NumberField } from '../parts/kept-fields.tsx';
import { Tick } from '../parts/typed-fields.tsx';
import { useEdit, type PartProps } from './use-edit.ts';

const outputWords: readonly (readonly [string, string])[] = [
  ['', 'nobody has said'],
  ['picture', 'a picture into the processor'],
  ['receivers', 'over the network into the receivers'],
  ['channels', 'on data channels'],
];

const cornerWords = core.wallCorners.map((corner) => [corner, corner.replace('_', ' ')] as const);

/** The adapters of a unit; which of them leads to receivers is said. */
function useCards(deviceId: string | null): readonly (readonly [string, string])[] {
  const show = useShow();
  const device = deviceId === null ? undefined : show.devices[deviceId];
  if (!device) return [];
  const leading = walls.cardsToReceivers(show, device.id);
  return (core.typeOf(show, device)?.adapters ?? []).map(
    ({ key, label }) => [key, leading.includes(key) ? `${label}, which leads to receivers` : label] as const,
  );
}

/** What the player sends, by which interface, and what is still to be done there (need 10.15). */
export function PlayerOutput({ own }: Pick<PartProps, 'own'>) {
  const show = useShow();
  const edit = useEdit(own);
  const { playerOutput } = own.wall;
  const cards = useCards(playerOutput.deviceId);
  const players = core.rowsOf(show, 'devices').filter((device) => core.isComputer(core.typeOf(show, device)));
  // whatever is set anew is not saved yet
  const put = (patch: Partial<typeof playerOutput>) =>
    edit('output of the player', { playerOutput: { ...playerOutput, saved: false, restarted: false, ...patch } });
  return (
    <section className="grid content-start gap-2" aria-label="Output of the player">
      <h2 className="font-bold">Output of the player</h2>
      <ChoiceField
        label="It plays from"
        value={playerOutput.deviceId ?? ''}
        options={[['', 'nobody has said'], ...players.map(({ id, name }) => [id, name] as const)]}
        onKeep={(id) => put({ deviceId: id || null, adapter: null })}
      />
      <ChoiceField
        label="It sends"
        value={playerOutput.kind ?? ''}
        options={outputWords}
        onKeep={(kind) => put({ kind: (kind || null) as typeof playerOutput.kind })}
      />
      {playerOutput.kind === 'receivers' && (
        <ChoiceField
          label="By the interface"
          value={playerOutput.adapter ?? ''}
          options={[['', 'nobody has said'], ...cards]}
          onKeep={(adapter) => put({ adapter: adapter || null })}
        />
      )}
      <ChoiceField
        label="It begins at the"
        value={playerOutput.start}
        options={cornerWords}
        onKeep={(start) => put({ start: start as typeof playerOutput.start })}
      />
      <Tick checked={playerOutput.enabled} onTick={(enabled) => put({ enabled })}>
        Its output is switched on
      </Tick>
      <Tick checked={playerOutput.saved} onTick={(saved) => put({ saved })}>
        Its settings are saved
      </Tick>
      <Tick checked={playerOutput.restarted} onTick={(restarted) => put({ saved: playerOutput.saved, restarted })}>
        What runs behind it was started again
      </Tick>
    </section>
  );
}

/** What sends into the wall, and how far away it stands (needs 10.4 and 10.11). */
export function SenderFields({ own }: Pick<PartProps, 'own'>) {
  const edit = useEdit(own);
  const { sender, card, processorId, distanceM, managed } = own.wall;
  const cards = useCards(processorId);
  return (
    <>
      <ChoiceField
        label="The sender is"
        value={sender}
        options={[
          ['device', 'a device made for it'],
          ['card', 'a network card of a computer'],
        ]}
        onKeep={(kind) => edit('sender', { sender: kind as typeof sender })}
      />
      {sender === 'card' && (
        <ChoiceField
          label="Network card"
          value={card ?? ''}
          options={[['', 'nobody has said'], ...cards]}
          onKeep={(adapter) => edit('network card', { card: adapter || null })}
        />
      )}
      <ChoiceField
        label="It is managed"
        value={managed ?? ''}
        options={[
          ['', 'nobody has said'],
          ['local', 'there, with monitor and keyboard'],
          ['remote', 'from afar'],
        ]}
        onKeep={(where) => edit('managed', { managed: (where || null) as typeof managed })}
      />
      <NumberField
        label="Metres from there to the foot of the wall"
        value={distanceM}
        refuse={(metres) => metres < 0 || metres > 10_000}
        wrong="0 to 10,000"
        onKeep={(metres) => edit('distance', { distanceM: metres })}
      />
    </>
  );
}

const runWords = (runs: readonly walls.DataRun[], what: string): string[] =>
  [...core.groupBy(runs, ({ metres, medium }) => `${metres} m of ${medium}`)].map(
    ([words, same]) => `${same.length} ${what}${same.length === 1 ? '' : 's'} of ${words}`,
  );

/** Direct, or through units beside the wall: what each takes in cable (need 10.11). */
export function Cables({ own: { wall, panel, capacity } }: Pick<PartProps, 'own'>) {
  if (!capacity || wall.strings.length === 0) return null;
  const plan = walls.cablePlan(wall, panel, capacity);
  const isThrough = capacity.unitOutputs !== null;
  const lines = isThrough
    ? [...runWords(plan.trunks, 'trunk'), ...runWords(plan.short, 'cable')]
    : runWords(plan.direct, 'cable');
  return (
    <section className="grid content-start gap-1 text-[13px]" aria-label="Data cables">
      <h2 className="font-bold">Data cables</h2>
      <p className="text-mute">
        {wall.distanceM === null
          ? 'Say how far it is to the foot of the wall: these count from there.'
          : isThrough
            ? `Through ${plan.trunks.length} distribution ${plan.trunks.length === 1 ? 'unit' : 'units'} at its foot: ${plan.throughMetres} m, straight it would be ${plan.directMetres} m.`
            : `Straight from what drives it: ${plan.directMetres} m.`}
      </p>
      <ul className="grid gap-0.5">
        {lines.map((line) => (
          <li key={line}>{line}</li>
        ))}
      </ul>
      <p className="text-mute">Copper carries 100 m; a tenth is added for corners.</p>
    </section>
  );
}

const byWords: Readonly<Record<walls.ManagedProcessor['by'], string>> = {
  network: 'by network',
  usb: 'by USB only',
  both: 'by network, and by USB at first',
  itself: 'at itself',
};
const whyWords: Readonly<Record<walls.ManagedProcessor['why'], string>> = {
  many: 'there are several: best from afar, in one list',
  few: 'best there, or from afar for updates',
  no_network: 'it has no network: best there',
  no_address: 'it has no address yet: best there until it has one',
};

/** Every processor in one list: how it is reached, and from where it is best managed (needs 10.18 and 10.20). */
export function Processors() {
  const show = useShow();
  const all = walls.processorsOf(show);
  if (all.length === 0) return null;
  return (
    <section className="grid content-start gap-1 text-[13px]" aria-label="Processors">
      <h2 className="font-bold">Processors</h2>
      <ul className="grid gap-1">
        {all.map(({ device, type, by, ips, why }) => (
          <li key={device.id}>
            <b>{device.name}</b>{' '}
            <span className="text-mute">
              {type.name}, {byWords[by]}
            </span>{' '}
            {ips.length > 0 && <span className="key-num">{ips.join(', ')}</span>}
            <br />
            <span className="text-mute">{whyWords[why]}</span>
          </li>
        ))}
      </ul>
    </section>
  );
}
