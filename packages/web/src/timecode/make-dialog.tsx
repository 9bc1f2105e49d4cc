import { timecode } from '@deep-patch/core';
import { useEffect, useRef, useState } from 'react';
import { Dialog } from '../parts/dialog.tsx';
import { saveFile } from '../parts/save-file.ts';
import type { WriteAnswer, WriteJob } from './write-sound.worker.ts';

const fields = {
  rate: '25',
  start: '10:00:00:00',
  minutes: '5',
  sampleRate: '48000',
  level: '-12',
  rise: '40',
  userBits: '00000000',
  bits: '16',
  speed: '1',
  backwards: 'no',
} as const;
type Fields = { -readonly [Key in keyof typeof fields]: string };
const mostMinutes = 24 * 60;

/** Linear time code as a WAV file. */
export function MakeDialog({ onClose }: { readonly onClose: () => void }) {
  const [given, setGiven] = useState<Fields>(fields);
  const { share, make, stop, fault: ended } = useWriter();
  const { job, faults } = jobOf(given);
  return (
    <Dialog title="Make a file of linear time code" onClose={onClose} unsaved={share !== undefined}>
      <form
        className="grid gap-4"
        onSubmit={(event) => {
          event.preventDefault();
          if (job) make(job, `time-code-${given.rate}-${given.start.replace(/[^0-9]+/g, '-')}.wav`);
        }}
      >
        <FormFields
          {...{ given, faults }}
          onPut={(name, value) => setGiven((known) => ({ ...known, [name]: value }))}
        />
        {job && <p className="text-[13px] text-mute">{sizeWords(job)}</p>}
        {ended && <p className="text-error">{ended}</p>}
        {share === undefined ? (
          <button type="submit" className="act-main justify-self-start" disabled={!job}>
            Make the file
          </button>
        ) : (
          <div className="flex items-center gap-3" role="status">
            <progress className="progress progress-primary" value={share} max={1} aria-label="Making the file" />
            <button type="button" className="act" onClick={stop}>
              Stop
            </button>
          </div>
        )}
      </form>
    </Dialog>
  );
}

const rates = timecode.carriedRates.map((key) => [key, timecode.rates[key].label] as const);
const sampleRates = ['44100', '48000', '88200', '96000'].map((rate) => [rate, rate] as const);
const bits = ['16', '24'].map((count) => [count, count] as const);
const directions = [
  ['no', 'forwards'],
  ['yes', 'backwards'],
] as const;

interface FieldProps {
  readonly given: Fields;
  readonly faults: Faults;
  readonly onPut: (name: keyof Fields, value: string) => void;
}

function FormFields(props: FieldProps) {
  return (
    <div className="grid grid-cols-2 gap-x-3 gap-y-2.5">
      <Select {...props} name="rate" label="Rate" options={rates} />
      <Text {...props} name="start" label="First time" />
      <Text {...props} name="minutes" label="Minutes" />
      <Select {...props} name="sampleRate" label="Samples a second" options={sampleRates} />
      <Text {...props} name="level" label="Level, dB of full scale" />
      <Text {...props} name="rise" label="Rise, microseconds" />
      <Text {...props} name="userBits" label="User bits, eight hex digits" />
      <Select {...props} name="bits" label="Bits of a sample" options={bits} />
      <Text {...props} name="speed" label="Speed, 1 is the usual" />
      <Select {...props} name="backwards" label="Direction" options={directions} />
    </div>
  );
}

interface OneField extends FieldProps {
  readonly name: keyof Fields;
  readonly label: string;
}

function Select({
  given,
  name,
  label,
  options,
  onPut,
}: OneField & { readonly options: readonly (readonly [string, string])[] }) {
  return (
    <label className="grid gap-0.5 text-xs text-mute">
      {label}
      <select className="field-select" value={given[name]} onChange={(event) => onPut(name, event.target.value)}>
        {options.map(([key, words]) => (
          <option key={key} value={key}>
            {words}
          </option>
        ))}
      </select>
    </label>
  );
}

function Text({ given, faults, name, label, onPut }: OneField) {
  return (
    <label className="grid gap-0.5 text-xs text-mute">
      {label}
      <input
        className={`field key-num ${faults[name] ? 'border-error' : ''}`}
        aria-invalid={faults[name] !== undefined}
        maxLength={20}
        value={given[name]}
        onChange={(event) => onPut(name, event.target.value)}
      />
      {faults[name] && <span className="text-error">{faults[name]}</span>}
    </label>
  );
}

type Faults = Partial<Record<keyof Fields, string>>;

/** What is to be written, with everything that is wrong with what was typed. */
function jobOf(given: Fields): { job: WriteJob | undefined; faults: Faults } {
  const faults: Faults = {};
  const number = (name: keyof Fields, least: number, most: number) => {
    const value = Number(given[name].replace(',', '.'));
    if (given[name].trim() === '' || !(value >= least && value <= most)) faults[name] = `${least} to ${most}`;
    return value;
  };
  const rate = timecode.rates[given.rate as timecode.Rate['key']];
  const start = timecode.readTime(given.start, rate);
  if ('fault' in start) faults.start = start.fault;
  const minutes = number('minutes', 0.01, mostMinutes);
  const level = number('level', -60, 0);
  const rise = number('rise', 0, 1000);
  const speed = number('speed', 0.1, 10);
  if (!/^[0-9a-f]{8}$/i.test(given.userBits)) faults.userBits = 'eight of 0-9 and a-f';
  if (Object.keys(faults).length > 0 || 'fault' in start) return { job: undefined, faults };
  const frames = Math.max(1, Math.round(minutes * 60 * timecode.framesPerSecond(rate)));
  return {
    faults,
    job: {
      ...{ rate: rate.key, first: timecode.framesOf(start.time, rate), frames, speed },
      ...{ sampleRate: Number(given.sampleRate), level: 10 ** (level / 20), riseTime: rise / 1e6 },
      userBits: Array.from(given.userBits, (digit) => parseInt(digit, 16)),
      bits: given.bits === '24' ? 24 : 16,
      backwards: given.backwards === 'yes',
    },
  };
}

function sizeWords({ frames, rate, sampleRate, bits, speed, first }: WriteJob): string {
  const seconds = timecode.secondsOf(frames, timecode.rates[rate]) / speed;
  const megabytes = (seconds * sampleRate * bits) / 8e6;
  const last = timecode.timeWords(timecode.timeAfter(first + frames - 1, timecode.rates[rate]), timecode.rates[rate]);
  return `${frames.toLocaleString('en-GB')} frames, up to ${last}; ${megabytes.toFixed(megabytes < 10 ? 1 : 0)} MB.`;
}

function useWriter() {
  const worker = useRef<Worker>(undefined);
  const [share, setShare] = useState<number>();
  const [fault, setFault] = useState<string>();
  const stop = () => {
    worker.current?.terminate();
    setShare(undefined);
  };
  useEffect(() => () => worker.current?.terminate(), []);
  const make = (job: WriteJob, name: string) => {
    stop();
    setFault(undefined);
    setShare(0);
    const own = new Worker(new URL('./write-sound.worker.ts', import.meta.url), { type: 'module' });
    worker.current = own;
    own.onmessage = ({ data }: MessageEvent<WriteAnswer>) => {
      if (data.say === 'progress') setShare(data.share);
      else {
        setShare(undefined);
        saveFile(name, data.file, 'audio/wav');
      }
    };
    own.onerror = () => {
      setShare(undefined);
      setFault('It is too long for this browser to hold: make it shorter.');
    };
    own.postMessage(job);
  };
  return { share, make, stop, fault };
}
