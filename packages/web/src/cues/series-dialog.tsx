import { cues as cueRoom, type show as core } from '@deep-patch/core';
import { useState, type ReactNode } from 'react';
import { newId } from '../live/identity.ts';
import { useSaving, useShow, useWorkspace } from '../live/workspace.tsx';
import { Dialog } from '../parts/dialog.tsx';
import { ChoiceField } from '../parts/kept-fields.tsx';

/** A message with a place in it, and a list: one cue for each entry, as one change (need 8.10). */
export function SeriesDialog({
  controllers,
  onClose,
}: {
  readonly controllers: readonly core.Device[];
  readonly onClose: () => void;
}) {
  const show = useShow();
  const { save } = useWorkspace();
  const saving = useSaving();
  const series = useSeries(controllers);
  const { items, plan, from } = series;
  return (
    <Dialog title="A series of cues" onClose={onClose} wide>
      <form
        className="grid gap-3 md:grid-cols-2"
        onSubmit={(event) => {
          event.preventDefault();
          if (plan) void save(cueRoom.planSeries(show, plan, newId)).then((done) => done && onClose());
        }}
      >
        <Template series={series} controllers={controllers} />
        <Entries series={series}>
          <Preview items={items} from={from} />
        </Entries>
        <button type="submit" className="act-main justify-self-start" disabled={saving || !plan}>
          {saving ? 'Saving…' : `Make ${items.length} ${items.length === 1 ? 'cue' : 'cues'}`}
        </button>
      </form>
    </Dialog>
  );
}

/** What is chosen and typed, and what follows from it. */
function useSeries(controllers: readonly core.Device[]) {
  const show = useShow();
  const [controllerId, setController] = useState(controllers[0]?.id ?? '');
  const offers = commandsOf(cueRoom.targetsOf(show, controllerId));
  const [chosen, setChosen] = useState(offers[0]?.key);
  const offer = offers.find(({ key }) => key === chosen) ?? offers[0];
  const [place, setPlace] = useState(0);
  const [name, setName] = useState('{item}');
  const [text, setText] = useState('');
  const [from, setFrom] = useState(() => Math.floor(cueRoom.cuesInOrder(show).at(-1)?.number ?? 0) + 1);
  const list = offer?.command.args[place]?.list;
  const names = offer && list !== undefined ? cueRoom.knownNames(show)(offer.target.id, list) : undefined;
  const items = cueRoom.seriesItems(cueRoom.readList(text), names);
  const template = offer && templateOf(offer, place);
  const plan =
    template && items.length > 0
      ? { template, name, items: items.map(({ item }) => item), controllerId, from }
      : undefined;
  const set = { setController, setChosen, setPlace, setName, setText, setFrom };
  return { controllerId, offers, offer, place, name, text, from, names, items, plan, ...set };
}
type Series = ReturnType<typeof useSeries>;

function Template({ series, controllers }: { readonly series: Series; readonly controllers: readonly core.Device[] }) {
  const { offers, offer } = series;
  return (
    <div className="grid content-start gap-3">
      <ChoiceField
        label="Sent by"
        value={series.controllerId}
        options={controllers.map(({ id, name }) => [id, name])}
        onKeep={series.setController}
      />
      <ChoiceField
        label="Message"
        value={offer?.key ?? ''}
        options={offers.map(({ key, label }) => [key, label])}
        onKeep={series.setChosen}
      />
      <ChoiceField
        label="The entry goes into"
        value={String(series.place)}
        options={(offer?.command.args ?? []).map(({ name }, at) => [String(at), name])}
        onKeep={(next) => series.setPlace(Number(next))}
      />
      <label className="grid gap-1">
        Called, with {'{item}'} for the entry
        <input
          className="field"
          value={series.name}
          maxLength={80}
          onChange={(event) => series.setName(event.target.value)}
        />
      </label>
      <label className="grid gap-1">
        Numbered from
        <input
          type="number"
          className="field"
          min={0}
          value={series.from}
          onChange={(event) => series.setFrom(Number(event.target.value))}
        />
      </label>
    </div>
  );
}

function Entries({ series, children }: { readonly series: Series; readonly children: ReactNode }) {
  const { names, text, setText } = series;
  return (
    <div className="grid content-start gap-3">
      <label className="grid gap-1">
        Entries: one a line, or 3-7
        <textarea
          className="textarea h-40 w-full border-line bg-base-100"
          value={text}
          onChange={(event) => setText(event.target.value)}
        />
      </label>
      {names && (
        <button type="button" className="act justify-self-start" onClick={() => setText(names.join('\n'))}>
          Take all {names.length} that it has
        </button>
      )}
      {children}
    </div>
  );
}

interface Offered {
  readonly key: string;
  readonly label: string;
  readonly target: core.Device;
  readonly service: core.ServiceType;
  readonly command: core.Command;
}

const commandsOf = (targets: readonly cueRoom.CueTarget[]): Offered[] =>
  targets.flatMap(({ target, service }) =>
    service.commands.flatMap((command) =>
      command.args.length > 0
        ? [
            {
              key: `${target.id} ${service.key} ${command.key}`,
              label: `${target.name}: ${command.label}`,
              target,
              service,
              command,
            },
          ]
        : [],
    ),
  );

const templateOf = ({ target, service, command }: Offered, place: number): core.CueMessage => {
  const message = cueRoom.messageWith(target.id, service.key, command);
  return { ...message, args: message.args.map((value, at) => (at === place ? '{item}' : value)) };
};

function Preview({ items, from }: { readonly items: readonly cueRoom.SeriesItem[]; readonly from: number }) {
  const wrong = items.filter(({ repeated, check }) => repeated || (check && check.state !== 'exact'));
  return (
    <div role="status" className="text-[13px] text-mute">
      {items.length > 0 && <p>{`${from} ${items[0]?.item} to ${from + items.length - 1} ${items.at(-1)?.item}`}</p>}
      {wrong.slice(0, 8).map(({ item, repeated, check }, at) => (
        <p key={at} className="text-warning">
          “{item}” {repeated ? 'is there twice' : check?.state === 'doubled' ? 'is the name of two' : 'is nobody there'}
          {check?.state === 'unknown' &&
            'nearest' in check &&
            check.nearest !== undefined &&
            `: it shows “${check.nearest}”`}
          .
        </p>
      ))}
    </div>
  );
}
