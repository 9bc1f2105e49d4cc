import { show as core } from '@deep-patch/core';
import type { DoOnBench } from '../bench/use-bench.ts';
import { useShow } from '../live/workspace.tsx';
import { ChoiceField, NumberField } from '../parts/kept-fields.tsx';

type Start = core.CueStart;

const ways: readonly (readonly [Start['by'], string])[] = [
  ['hand', 'by hand'],
  ['after', 'after the one before'],
  ['cue', 'after another one'],
  ['clock', 'at a time of day'],
  ['timecode', 'at a time code'],
  ['on_air', 'when an input is on air'],
  ['message', 'when a message is heard'],
  ['level', 'at a lighting level'],
  ['web', 'when a web page says so'],
];

/** What starts a cue, with the fields that it needs. */
export function StartFields({
  cue,
  act,
  onEdit,
}: {
  readonly cue: core.Cue;
  readonly act: DoOnBench;
  readonly onEdit: (starts: Start) => void;
}) {
  const show = useShow();
  const begin = (by: Start['by']): Start => firstOf(by, show.cues, Object.values(show.devices), cue.id);
  return (
    <div className="grid grid-cols-2 items-end gap-2">
      <label className="col-span-2 grid gap-0.5 text-xs text-mute">
        Starts
        <select
          className="field-select h-8"
          value={cue.starts.by}
          onChange={(event) => onEdit(begin(event.target.value as Start['by']))}
        >
          {ways.map(([by, label]) => (
            <option key={by} value={by}>
              {label}
            </option>
          ))}
        </select>
      </label>
      <Fields {...{ act, onEdit }} starts={cue.starts} own={cue.id} />
    </div>
  );
}

function firstOf(
  by: Start['by'],
  cues: Readonly<Record<string, core.Cue>>,
  devices: readonly core.Device[],
  own: string,
): Start {
  const other = Object.keys(cues).find((id) => id !== own) ?? own;
  const switcher =
    devices.find(({ inputs, typeId }) => inputs.length > 0 || typeId.includes('switcher'))?.id ?? devices[0]?.id ?? '';
  const starts: { readonly [By in Start['by']]: Extract<Start, { by: By }> } = {
    hand: { by: 'hand' },
    after: { by: 'after', delayMs: 0 },
    cue: { by: 'cue', cueId: other, delayMs: 0 },
    clock: { by: 'clock', time: '20:00:00' },
    timecode: { by: 'timecode', code: '10:00:00:00' },
    on_air: { by: 'on_air', deviceId: switcher, input: 1 },
    message: { by: 'message', address: '/cue' },
    level: { by: 'level', universe: 1, channel: 1, above: 127 },
    web: { by: 'web', page: 'tide', says: 'high' },
  };
  return starts[by];
}

interface FieldsProps<By extends Start['by']> {
  readonly starts: Extract<Start, { by: By }>;
  readonly own: string;
  readonly act: DoOnBench;
  readonly onEdit: (starts: Start) => void;
}

function Fields({ starts, ...rest }: FieldsProps<Start['by']>) {
  switch (starts.by) {
    case 'hand':
      return null;
    case 'after':
      return <Seconds ms={starts.delayMs} onKeep={(delayMs) => rest.onEdit({ ...starts, delayMs })} />;
    case 'cue':
      return <OtherCue {...{ starts, ...rest }} />;
    case 'clock':
    case 'timecode':
      return <Moment {...{ starts, ...rest }} />;
    case 'on_air':
      return <OnAir {...{ starts, ...rest }} />;
    case 'message':
      return (
        <Text
          label="OSC address"
          value={starts.address}
          pattern={/^\/\S+$/}
          onKeep={(address) => rest.onEdit({ ...starts, address })}
        />
      );
    case 'level':
      return <Level {...{ starts, ...rest }} />;
    case 'web':
      return <Web {...{ starts, ...rest }} />;
  }
}

function OtherCue({ starts, own, onEdit }: FieldsProps<'cue'>) {
  const show = useShow();
  const others = Object.values(show.cues).filter(({ id }) => id !== own);
  return (
    <>
      <ChoiceField
        label="cue"
        value={starts.cueId}
        options={others.map(({ id, number, name }) => [id, `${number} ${name}`])}
        onKeep={(cueId) => onEdit({ ...starts, cueId })}
      />
      <Seconds ms={starts.delayMs} onKeep={(delayMs) => onEdit({ ...starts, delayMs })} />
    </>
  );
}

function Moment({ starts, onEdit }: FieldsProps<'clock' | 'timecode'>) {
  return starts.by === 'clock' ? (
    <Text
      label="time, as 22:15:00"
      value={starts.time}
      pattern={/^([01]\d|2[0-3]):[0-5]\d:[0-5]\d$/}
      onKeep={(time) => onEdit({ ...starts, time })}
    />
  ) : (
    <Text
      label="time code, as 10:00:12:00"
      value={starts.code}
      pattern={/^([01]\d|2[0-3]):[0-5]\d:[0-5]\d[:;][0-5]\d$/}
      onKeep={(code) => onEdit({ ...starts, code })}
    />
  );
}

function OnAir({ starts, onEdit }: FieldsProps<'on_air'>) {
  const show = useShow();
  const switchers = core.rowsOf(show, 'devices').filter((device) => core.typeOf(show, device)?.kind === 'switcher');
  return (
    <>
      <ChoiceField
        label="of"
        value={starts.deviceId}
        options={switchers.map(({ id, name }) => [id, name])}
        onKeep={(deviceId) => onEdit({ ...starts, deviceId })}
      />
      <Whole
        label="input"
        value={starts.input}
        least={1}
        most={1000}
        onKeep={(input) => onEdit({ ...starts, input })}
      />
    </>
  );
}

/** A channel of a lighting universe, and a stand-in for whoever raises it. */
function Level({ starts, act, onEdit }: FieldsProps<'level'>) {
  const { universe, channel, above } = starts;
  const feed = (value: number) => void act({ act: 'feed_level', universe, channel, value });
  return (
    <>
      <Whole
        label="universe"
        value={universe}
        least={1}
        most={63_999}
        onKeep={(next) => onEdit({ ...starts, universe: next })}
      />
      <Whole
        label="channel"
        value={channel}
        least={1}
        most={512}
        onKeep={(next) => onEdit({ ...starts, channel: next })}
      />
      <Whole
        label="above, 0 to 254"
        value={above}
        least={0}
        most={254}
        onKeep={(next) => onEdit({ ...starts, above: next })}
      />
      <span className="flex gap-2">
        <button type="button" className="act-quiet" onClick={() => feed(above + 1)}>
          Raise it
        </button>
        <button type="button" className="act-quiet" onClick={() => feed(0)}>
          Lower it
        </button>
      </span>
    </>
  );
}

/** A page of the web, and a stand-in for what it says. */
function Web({ starts, act, onEdit }: FieldsProps<'web'>) {
  const { page, says } = starts;
  return (
    <>
      <Text label="page" value={page} pattern={/\S/} onKeep={(next) => onEdit({ ...starts, page: next })} />
      <Text label="says" value={says} pattern={/\S/} onKeep={(next) => onEdit({ ...starts, says: next })} />
      <span className="flex gap-2">
        <button type="button" className="act-quiet" onClick={() => void act({ act: 'feed_page', page, says })}>
          Let it say so
        </button>
        <button type="button" className="act-quiet" onClick={() => void act({ act: 'feed_page', page, says: '' })}>
          Let it be empty
        </button>
      </span>
    </>
  );
}

function Whole({
  label,
  value,
  least,
  most,
  onKeep,
}: {
  readonly label: string;
  readonly value: number;
  readonly least: number;
  readonly most: number;
  readonly onKeep: (value: number) => void;
}) {
  const keep = (next: number | null) => next !== null && onKeep(Math.min(most, Math.max(least, Math.round(next))));
  return <NumberField {...{ label, value }} onKeep={keep} />;
}

const Seconds = ({ ms, onKeep }: { readonly ms: number; readonly onKeep: (ms: number) => void }) => (
  <NumberField
    label="seconds later"
    value={ms / 1000}
    onKeep={(seconds) => onKeep(Math.max(0, Math.round((seconds ?? 0) * 1000)))}
  />
);

function Text({
  label,
  value,
  pattern,
  onKeep,
}: {
  readonly label: string;
  readonly value: string;
  readonly pattern: RegExp;
  readonly onKeep: (value: string) => void;
}) {
  return (
    <label className="grid gap-0.5 text-xs text-mute">
      {label}
      <input
        key={value}
        className="field key-num h-7 user-invalid:border-error"
        defaultValue={value}
        maxLength={200}
        required
        pattern={pattern.source}
        onBlur={(event) => {
          const text = event.target.value.trim();
          if (pattern.test(text) && text !== value) onKeep(text);
        }}
      />
    </label>
  );
}
