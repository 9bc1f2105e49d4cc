import { timecode } from '@deep-patch/core';
import { useEffect, useRef, useState } from 'react';
import { useWorkspace } from '../live/workspace.tsx';
import { useShow } from '../live/workspace.tsx';
import { Facts } from '../parts/facts.tsx';
import { Mark } from '../parts/mark.tsx';
import { ArrivalPlot } from './arrival-plot.tsx';
import { BenchDigits, LiveMidi } from './live-midi.tsx';
import type { MidiAnswer, MidiStream } from './read-midi.worker.ts';

/** MIDI time code out of a capture, off the bench, or from an input of this computer. */
export function MidiView() {
  const { showId } = useWorkspace();
  const { state, read, stop } = useCapture();
  const fromBench = () =>
    void fetch(`/api/bench/${showId}/capture.pcapng`).then(async (response) => {
      if (response.ok) read(await response.blob(), 'the bench’s tap');
    });
  return (
    <div className="grid min-h-0 flex-1 content-start gap-4 overflow-auto border-t border-rule p-4.5">
      <div className="flex flex-wrap items-center gap-3">
        <label className="flex items-center gap-2 whitespace-nowrap">
          A capture (pcap or pcapng)
          <input
            type="file"
            accept=".pcap,.pcapng,.cap"
            className="file-input file-input-sm border-line bg-base-100"
            onChange={(event) => {
              const [file] = event.target.files ?? [];
              if (file) read(file, file.name);
            }}
          />
        </label>
        <button type="button" className="act" onClick={fromBench}>
          What the bench’s tap has
        </button>
      </div>
      <LiveMidi />
      <BenchDigits />
      {state.share !== undefined && (
        <div className="flex items-center gap-3" role="status">
          <progress
            className="progress progress-primary max-w-md"
            value={state.share}
            max={1}
            aria-label={`Reading ${state.name}`}
          />
          <button type="button" className="act" onClick={stop}>
            Stop
          </button>
        </div>
      )}
      {state.fault && (
        <p className="text-error" role="alert">
          <Mark state="fail" size={13} /> {state.fault}
        </p>
      )}
      {state.streams && state.streams.length === 0 && (
        <p className="text-mute">
          {state.frames.toLocaleString('en-GB')} frames in {state.name}, and no MIDI time code in any of them.
        </p>
      )}
      {state.streams?.map((stream, at) => (
        <StreamView key={at} stream={stream} />
      ))}
    </div>
  );
}

function StreamView({ stream: { from, to, reading } }: { readonly stream: MidiStream }) {
  const show = useShow();
  const rate = timecode.rates[reading.rate];
  const nameOf = (ip: string) => {
    const address = Object.values(show.addresses).find((one) => one.ip === ip);
    const device = address && show.devices[show.interfaces[address.interfaceId]?.deviceId ?? ''];
    return device ? `${device.name} (${ip})` : ip;
  };
  const facts: [string, string][] = [
    ['first', reading.first ? timecode.timeWords(reading.first, rate) : '—'],
    ['last', reading.last ? timecode.timeWords(reading.last, rate) : '—'],
    ['quarter frames', reading.quarters.toLocaleString('en-GB')],
    ['full frames', String(reading.fulls)],
    ['missing', String(reading.missing)],
    [
      'jitter',
      reading.jitter ? `${reading.jitter.rms.toFixed(2)} ms, ${reading.jitter.range.toFixed(1)} at most` : '—',
    ],
  ];
  return (
    <section className="grid gap-3 border-t border-rule pt-3" aria-label={`From ${nameOf(from)}`}>
      <p>
        <b className="mr-3 text-base">
          {nameOf(from)} to {nameOf(to)}
        </b>
        <span className="text-mute">
          MIDI time code at {rate.label} · {reading.direction === 'stands' ? 'it stands' : reading.direction}
        </span>
      </p>
      <ArrivalPlot reading={reading} />
      <Facts facts={facts} />
      {reading.breaks.length > 0 && (
        <ul className="text-[13px]">
          {reading.breaks.slice(0, 20).map((found, at) => (
            <li key={at}>
              {found.kind === 'missing' ? `${found.frames} quarter frames missing` : timecode.breakWords(found, rate)}
            </li>
          ))}
        </ul>
      )}
    </section>
  );
}

interface CaptureState {
  readonly name: string;
  readonly share: number | undefined;
  readonly streams: readonly MidiStream[] | undefined;
  readonly frames: number;
  readonly fault: string | undefined;
}
const idle: CaptureState = { name: '', share: undefined, streams: undefined, frames: 0, fault: undefined };

function useCapture() {
  const [state, setState] = useState(idle);
  const worker = useRef<Worker>(undefined);
  useEffect(() => () => worker.current?.terminate(), []);
  const stop = () => {
    worker.current?.terminate();
    setState(idle);
  };
  const read = (file: Blob, name: string) => {
    worker.current?.terminate();
    const own = new Worker(new URL('./read-midi.worker.ts', import.meta.url), { type: 'module' });
    worker.current = own;
    setState({ ...idle, name, share: 0 });
    own.onmessage = ({ data }: MessageEvent<MidiAnswer>) => {
      if (data.say === 'progress') setState((known) => ({ ...known, share: data.share }));
      else {
        const fault =
          data.fault === null
            ? undefined
            : data.fault.code === 'not_a_capture'
              ? `${name} is no packet capture.`
              : `${name} is damaged at byte ${data.fault.at}: what comes before it was read.`;
        setState({
          name,
          share: undefined,
          streams: data.fault?.code === 'not_a_capture' ? undefined : data.streams,
          frames: data.frames,
          fault,
        });
      }
    };
    own.onerror = () => setState({ ...idle, name, fault: 'The reader ended: load the page anew.' });
    own.postMessage(file);
  };
  return { state, read, stop };
}
