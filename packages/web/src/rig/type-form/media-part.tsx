import { show as core, timecode } from '@deep-patch/core';
import { Tick } from '../../parts/typed-fields.tsx';
import { numberOf, textOf, type FormPart, type TypeContent } from './form-part.ts';
import { faultsIn, LinesField, Section, TextCell } from './rows.tsx';

type Plays = NonNullable<TypeContent['plays']>;
type Clock = NonNullable<TypeContent['timecode']>;

const player: Plays = { startMs: 120, jitterMs: 40, codecs: [], most: null, togetherFrom: null };
const clock: Clock = { takes: [], gives: [], inputs: null, makes: false };

/** Does it play clips, and what does it do with time code. */
export function MediaPart({ values, issues, patch }: FormPart) {
  const { plays, timecode: time } = values;
  const said = [plays ? 'it plays clips' : '', time ? clockWords(time) : ''].filter(Boolean).join(' · ');
  return (
    <Section title="Clips and time code" summary={said} faults={faultsIn(issues, 'plays', 'timecode')}>
      <Tick checked={plays !== null} onTick={(on) => patch({ plays: on ? player : null })}>
        It plays clips when it is told to
      </Tick>
      {plays && (
        <PlayerFields {...{ plays, issues }} onChange={(change) => patch({ plays: { ...plays, ...change } })} />
      )}
      <Tick checked={time !== null} onTick={(on) => patch({ timecode: on ? clock : null })}>
        It gives or takes time code
      </Tick>
      {time && <ClockFields time={time} onChange={(change) => patch({ timecode: { ...time, ...change } })} />}
    </Section>
  );
}

function clockWords({ takes, gives, makes }: Clock): string {
  const words = [takes.length > 0 ? 'takes' : '', gives.length > 0 ? 'gives' : '', makes ? 'makes' : ''].filter(
    Boolean,
  );
  return words.length > 0 ? `it ${words.join(', ')} time code` : '';
}

function PlayerFields({
  plays,
  issues,
  onChange,
}: {
  readonly plays: Plays;
  readonly issues: FormPart['issues'];
  readonly onChange: (change: Partial<Plays>) => void;
}) {
  return (
    <div className="grid gap-2 border-l-2 border-rule pl-3">
      <div className="flex flex-wrap items-end gap-2">
        <TextCell
          label="Milliseconds until the first frame moves"
          caption="Starts after, ms"
          look="key"
          width="w-28"
          value={textOf(plays.startMs)}
          onType={(text) => onChange({ startMs: numberOf(text) ?? 0 })}
        />
        <TextCell
          label="Milliseconds by which that varies"
          caption="Varies by, ms"
          look="key"
          width="w-28"
          value={textOf(plays.jitterMs)}
          onType={(text) => onChange({ jitterMs: numberOf(text) ?? 0 })}
        />
        <TextCell
          label="Version from which several play frame for frame together"
          caption="Frame for frame from"
          look="key"
          placeholder="none"
          value={textOf(plays.togetherFrom)}
          onType={(text) => onChange({ togetherFrom: text.trim() === '' ? null : text })}
        />
      </div>
      <LinesField
        label="Codecs that it plays (empty: nobody has said)"
        lines={plays.codecs}
        fault={issues.get('plays.codecs')}
        onChange={(codecs) => onChange({ codecs })}
      />
    </div>
  );
}

function ClockFields({
  time,
  onChange,
}: {
  readonly time: Clock;
  readonly onChange: (change: Partial<Clock>) => void;
}) {
  return (
    <div className="grid gap-2 border-l-2 border-rule pl-3">
      {(['takes', 'gives'] as const).map((way) => (
        <fieldset key={way} className="flex flex-wrap gap-x-4 gap-y-1">
          <legend className="text-xs font-semibold text-mute">{way === 'takes' ? 'It takes' : 'It gives'}</legend>
          {core.timeFormats.map((format) => (
            <Tick
              key={format}
              checked={time[way].includes(format)}
              onTick={(on) =>
                onChange({ [way]: core.timeFormats.filter((one) => (one === format ? on : time[way].includes(one))) })
              }
            >
              {timecode.formatWords[format]}
            </Tick>
          ))}
        </fieldset>
      ))}
      <Tick checked={time.makes} onTick={(makes) => onChange({ makes })}>
        It makes time code by itself
      </Tick>
      <TextCell
        label="Inputs of time code that may be chosen at once"
        caption="Inputs at once"
        look="key"
        width="w-28"
        placeholder="any"
        value={textOf(time.inputs)}
        onType={(text) => onChange({ inputs: numberOf(text) })}
      />
    </div>
  );
}
