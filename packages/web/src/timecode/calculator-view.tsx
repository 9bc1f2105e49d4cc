import { show as core, timecode } from '@deep-patch/core';
import { useState, type ReactNode } from 'react';

const usual = { time: '10:04:31:08', rate: '25', to: '29.97df', sampleRate: '48000', other: '10:00:00:00', ppm: '12' };

/** Any time code at any rate as frames, seconds and samples, the difference of two, another rate, and what clocks lose. */
export function CalculatorView() {
  const [given, setGiven] = useState(usual);
  const put = (name: keyof typeof usual) => (value: string) => setGiven((known) => ({ ...known, [name]: value }));
  const rate = timecode.rates[given.rate as core.RateKey];
  const to = timecode.rates[given.to as core.RateKey];
  const time = timecode.readTime(given.time, rate);
  const frames = 'fault' in time ? undefined : timecode.framesOf(time.time, rate);
  const sampleRate = Number(given.sampleRate);
  const setFrames = (count: number) => put('time')(timecode.timeWords(timecode.timeAfter(count, rate), rate));
  return (
    <div className="grid min-h-0 flex-1 content-start gap-5 overflow-auto border-t border-rule p-4.5">
      <div className="flex flex-wrap items-end gap-3">
        <Text
          label="Time code"
          value={given.time}
          onChange={put('time')}
          fault={'fault' in time ? time.fault : undefined}
          big
        />
        <Rates label="at" value={given.rate} onChange={put('rate')} />
        <Choice
          label="Samples a second"
          value={given.sampleRate}
          options={['44100', '48000', '88200', '96000']}
          onChange={put('sampleRate')}
        />
      </div>
      {'moved' in time && time.moved && (
        <p className="text-warning">Drop-frame leaves this number out: it is the next one that counts.</p>
      )}
      {frames !== undefined && (
        <div className="grid max-w-4xl grid-cols-[repeat(auto-fit,minmax(15rem,1fr))] gap-x-8 gap-y-4">
          <Figure label="Frames from midnight" value={frames} onValue={setFrames} />
          <Figure
            label="Seconds that pass until it begins"
            value={timecode.secondsOf(frames, rate)}
            digits={4}
            onValue={(seconds) => setFrames(Math.floor((seconds * rate.over) / rate.under + 1e-6))}
          />
          <Figure
            label="Sample at which it begins"
            value={timecode.samplesOf(frames, rate, sampleRate)}
            onValue={(sample) => setFrames(timecode.frameAtSample(sample, rate, sampleRate))}
          />
        </div>
      )}
      {frames !== undefined && <Difference {...{ given, put, rate, frames }} />}
      {frames !== undefined && <InAnother {...{ given, put, rate, to, frames }} />}
      <Drift {...{ given, put, rate }} />
    </div>
  );
}

type Given = typeof usual;
interface Part {
  readonly given: Given;
  readonly put: (name: keyof Given) => (value: string) => void;
  readonly rate: timecode.Rate;
}

function Difference({ given, put, rate, frames }: Part & { readonly frames: number }) {
  const other = timecode.readTime(given.other, rate);
  const between = 'fault' in other ? undefined : frames - timecode.framesOf(other.time, rate);
  return (
    <Section title="From another time to this one">
      <Text
        label="Other time"
        value={given.other}
        onChange={put('other')}
        fault={'fault' in other ? other.fault : undefined}
      />
      {between !== undefined && (
        <p className="pb-1">
          <b className="key-num text-base">{between}</b> frames, which last{' '}
          <b className="key-num text-base">{timecode.secondsOf(between, rate).toFixed(3)}</b> s
        </p>
      )}
    </Section>
  );
}

function InAnother({ given, put, rate, to, frames }: Part & { readonly to: timecode.Rate; readonly frames: number }) {
  const there = timecode.convert(frames, rate, to);
  const lost = there.lost * 1000;
  const words =
    there.gearing === 'equal'
      ? 'Both rates are as fast: every frame has its own.'
      : there.gearing === 'several'
        ? 'Several frames share one there: going back does not give each of them again.'
        : 'Not every frame there has one of these: some are never reached.';
  return (
    <Section title="The same moment at another rate">
      <Rates label="at" value={given.to} onChange={put('to')} />
      <p className="pb-1">
        <b className="key-num text-lg">{timecode.timeWords(there.time, to)}</b>
        <span className="ml-3 text-mute">
          {Math.abs(lost) < 0.001 ? 'begins at the same moment.' : `begins ${lost.toFixed(2)} ms earlier.`} {words}
        </span>
      </p>
    </Section>
  );
}

function Drift({ given, put, rate }: Part) {
  const ppm = Number(given.ppm.replace(',', '.'));
  const isNumber = given.ppm.trim() !== '' && Number.isFinite(ppm);
  const seconds = timecode.secondsToLoseFrame(ppm, rate);
  return (
    <Section title="Two clocks that drift apart">
      <Text
        label="Parts per million"
        value={given.ppm}
        onChange={put('ppm')}
        fault={isNumber ? undefined : 'a number, such as 12'}
      />
      {isNumber && (
        <p className="pb-1">
          {seconds === Infinity ? (
            'They stay together.'
          ) : (
            <>
              They lose a frame of {rate.label} in <b className="key-num text-base">{spanWords(seconds)}</b>.
            </>
          )}
        </p>
      )}
    </Section>
  );
}

function spanWords(seconds: number): string {
  if (seconds < 120) return `${seconds.toFixed(1)} s`;
  if (seconds < 7200) return `${(seconds / 60).toFixed(1)} min`;
  return seconds < 172_800 ? `${(seconds / 3600).toFixed(1)} h` : `${(seconds / 86_400).toFixed(0)} days`;
}

function Section({ title, children }: { readonly title: string; readonly children: ReactNode }) {
  return (
    <section className="grid max-w-4xl gap-2 border-t border-rule pt-3">
      <h2 className="text-[13px] font-bold">{title}</h2>
      <div className="flex flex-wrap items-end gap-x-5 gap-y-2">{children}</div>
    </section>
  );
}

function Text({
  label,
  value,
  fault,
  big = false,
  onChange,
}: {
  readonly label: string;
  readonly value: string;
  readonly fault?: string | undefined;
  readonly big?: boolean;
  readonly onChange: (value: string) => void;
}) {
  return (
    <label className="grid gap-0.5 text-xs text-mute">
      {label}
      <input
        className={`field key-num ${big ? 'h-11 w-52 text-xl' : 'w-40'} ${fault ? 'border-error' : ''}`}
        aria-invalid={fault !== undefined}
        maxLength={20}
        value={value}
        onChange={(event) => onChange(event.target.value)}
      />
      {fault && <span className="text-error">{fault}</span>}
    </label>
  );
}

function Rates({
  label,
  value,
  onChange,
}: {
  readonly label: string;
  readonly value: string;
  readonly onChange: (value: string) => void;
}) {
  return (
    <Choice
      label={label}
      value={value}
      options={core.rateKeys}
      words={(key) => timecode.rates[key as core.RateKey].label}
      onChange={onChange}
    />
  );
}

function Choice({
  label,
  value,
  options,
  words = (key) => key,
  onChange,
}: {
  readonly label: string;
  readonly value: string;
  readonly options: readonly string[];
  readonly words?: (key: string) => string;
  readonly onChange: (value: string) => void;
}) {
  return (
    <label className="grid gap-0.5 text-xs text-mute">
      {label}
      <select className="field-select w-40" value={value} onChange={(event) => onChange(event.target.value)}>
        {options.map((key) => (
          <option key={key} value={key}>
            {words(key)}
          </option>
        ))}
      </select>
    </label>
  );
}

/** A figure that follows the time code, and that the time code follows when somebody types it. */
function Figure({
  label,
  value,
  digits = 0,
  onValue,
}: {
  readonly label: string;
  readonly value: number;
  readonly digits?: number;
  readonly onValue: (value: number) => void;
}) {
  const [typed, setTyped] = useState<string>();
  const keep = () => {
    const read = Number((typed ?? '').replace(/[,\s]/g, ''));
    if (typed !== undefined && typed.trim() !== '' && Number.isFinite(read) && read >= 0 && read < 1e12) onValue(read);
    setTyped(undefined);
  };
  return (
    <label className="grid gap-0.5 text-xs text-mute">
      {label}
      <input
        className="field key-num h-9 text-base"
        inputMode="decimal"
        value={typed ?? value.toFixed(digits)}
        onChange={(event) => setTyped(event.target.value)}
        onBlur={keep}
        onKeyDown={(event) => event.key === 'Enter' && keep()}
      />
    </label>
  );
}
