import { timecode, type show as core } from '@deep-patch/core';
import { Link } from 'react-router';
import { useShow, useWorkspace } from '../live/workspace.tsx';
import { driverWords } from './driver-words.ts';
import { ChoiceField, TextField } from '../parts/kept-fields.tsx';

/** One hop: as what it travels, the names at its two ends, and the input that it is assigned to. */
export function HopPanel({ row }: { readonly row: core.TimeHop }) {
  const show = useShow();
  const { save, showId } = useWorkspace();
  const [from, to] = [show.devices[row.fromId], show.devices[row.toId]];
  const edit = (patch: Partial<core.Content<'timeHops'>>) =>
    void save(timecode.planHop(show, { ...patch, id: row.id }));
  const hop = timecode.hopOf(show, row, undefined);
  const shared = timecode.sharedFormats(show, row.fromId, row.toId);
  if (!from || !to) return null;
  return (
    <div className="grid gap-3">
      <h2 className="font-bold">
        {from.name} to {to.name}
      </h2>
      <ChoiceField
        label="Travels as"
        value={row.format}
        options={Object.entries(timecode.formatWords).map(([key, words]) => [
          key,
          `${words}${shared.includes(key as core.TimeFormat) ? '' : ' (one end cannot)'}`,
        ])}
        onKeep={(format) => edit({ format: format as core.TimeFormat })}
      />
      {row.format !== 'linear' && <Names {...{ row, from, to }} onEdit={edit} />}
      <TextField
        label={`Time code input of ${to.name}, if it has several`}
        value={row.input}
        onKeep={(input) => edit({ input: input.slice(0, 80) })}
      />
      {row.format === 'network_midi' &&
        [from, to].map((device) => (
          <p key={device.id} className="text-[13px] text-mute">
            Network MIDI on {device.name}: {driverWords[timecode.driverOf(show, device)]}.
          </p>
        ))}
      {hop?.link && (
        <Link className="link text-[13px]" to={`/shows/${showId}/links/${hop.link.id}`}>
          The session that carries it, in Links
        </Link>
      )}
      <button
        type="button"
        className="act-quiet justify-self-start"
        onClick={() => void save(timecode.planRemoveHop(show, row))}
      >
        Take this hop out
      </button>
      <hr className="border-rule" />
      <RateFields device={to} />
    </div>
  );
}

/** The names at both ends, which have to be the same. */
function Names({
  row,
  from,
  to,
  onEdit,
}: {
  readonly row: core.TimeHop;
  readonly from: core.Device;
  readonly to: core.Device;
  readonly onEdit: (patch: Partial<core.Content<'timeHops'>>) => void;
}) {
  return (
    <>
      <TextField
        label={`Name at ${from.name}`}
        value={row.says}
        onKeep={(says) => onEdit({ says: says.slice(0, 80) })}
      />
      <TextField
        label={`Name chosen at ${to.name}`}
        value={row.hears}
        onKeep={(hears) => onEdit({ hears: hears.slice(0, 80) })}
      />
      <p className="text-[13px] text-mute">
        Both have to be the same, letter by letter. Without a name {from.name} goes by its own; without a choice{' '}
        {to.name} takes whatever comes.
      </p>
    </>
  );
}

/** The rate that a unit makes or waits for. */
export function RateFields({ device }: { readonly device: core.Device }) {
  const { save } = useWorkspace();
  const options = timecode.carriedRates.map((key) => [key, timecode.rates[key].label] as const);
  return (
    <ChoiceField
      label={`Rate of ${device.name}`}
      value={device.rate ?? ''}
      options={[['', 'whatever comes'], ...options]}
      onKeep={(rate) => void save(timecode.planRate(device, rate === '' ? null : (rate as core.RateKey)))}
    />
  );
}
