import { timecode } from '@deep-patch/core';
import { useState, type DragEvent } from 'react';
import { Facts } from '../parts/facts.tsx';
import { Mark } from '../parts/mark.tsx';
import { DriftPlot } from './drift-plot.tsx';
import { useSound, type SoundRead } from './use-sound.ts';

/** Linear time code out of a sound: what it is, where it breaks, and how exact its clock is. */
export function SoundView() {
  const { state, readFile, listen, endListening, stop } = useSound();
  const { read, share, fault, isListening, now, name } = state;
  return (
    <div className="grid min-h-0 flex-1 content-start gap-4 overflow-auto border-t border-rule p-4.5">
      <Picker {...{ isListening, onFile: readFile, onListen: () => void listen(), onEnd: endListening }} />
      {share !== undefined && (
        <div className="flex items-center gap-3" role="status">
          <progress
            className="progress progress-primary max-w-md"
            value={share}
            max={1}
            aria-label={`Reading ${name}`}
          />
          <button type="button" className="act" onClick={stop}>
            Stop
          </button>
        </div>
      )}
      {isListening && (
        <p className="font-mono text-4xl font-bold text-success" role="timer">
          {now ? (
            timecode.timeWords(now, { drops: 0 })
          ) : (
            <span className="font-sans text-base font-normal text-mute">Listening; nothing yet.</span>
          )}
        </p>
      )}
      {fault && (
        <p className="text-error" role="alert">
          <Mark state="fail" size={13} /> {name && `${name}: `}
          {fault}
        </p>
      )}
      {read && <ReadingView read={read} />}
    </div>
  );
}

/** Where a sound comes from: a file, dropped or chosen, or the microphone. */
function Picker({
  isListening,
  onFile,
  onListen,
  onEnd,
}: {
  readonly isListening: boolean;
  readonly onFile: (file: File) => void;
  readonly onListen: () => void;
  readonly onEnd: () => void;
}) {
  const [over, setOver] = useState(false);
  const drop = (event: DragEvent) => {
    event.preventDefault();
    setOver(false);
    const [file] = event.dataTransfer.files;
    if (file) onFile(file);
  };
  return (
    <div
      className={`flex flex-wrap items-center gap-3 rounded-box border border-dashed p-3 ${over ? 'border-primary bg-base-300' : 'border-line'}`}
      onDragOver={(event) => {
        event.preventDefault();
        setOver(true);
      }}
      onDragLeave={() => setOver(false)}
      onDrop={drop}
    >
      <label className="flex items-center gap-2">
        <span>A sound with time code in it</span>
        <input
          type="file"
          accept="audio/*,.wav"
          className="file-input file-input-sm border-line bg-base-100"
          onChange={(event) => {
            const [file] = event.target.files ?? [];
            if (file) onFile(file);
          }}
        />
      </label>
      {isListening ? (
        <button type="button" className="act-main" onClick={onEnd}>
          Stop listening
        </button>
      ) : (
        <button type="button" className="act" onClick={onListen}>
          Listen to the microphone
        </button>
      )}
      <span className="text-[13px] text-mute">or drop a file here. It is read in the browser and goes nowhere.</span>
    </div>
  );
}

function ReadingView({ read }: { readonly read: SoundRead }) {
  const { reading, name, sampleRate, channel, channels, missing } = read;
  const rate = timecode.rates[reading.rate];
  const minutes = Math.floor(reading.seconds / 60);
  const length = `${minutes > 0 ? `${minutes} min ` : ''}${(reading.seconds % 60).toFixed(minutes > 0 ? 0 : 1)} s`;
  const facts: [string, string][] = [
    ['first', timecode.timeWords(reading.first, rate)],
    ['last', timecode.timeWords(reading.last, rate)],
    [
      'user bits',
      `${timecode.userBitsWords(reading.userBits.first)}${reading.userBits.changes > 0 ? `, changing` : ''}`,
    ],
    ['frames read', `${reading.words.toLocaleString('en-GB')} of ${reading.expected.toLocaleString('en-GB')}`],
    ['clock', reading.clock ? `${reading.clock.ppm >= 0 ? '+' : ''}${reading.clock.ppm.toFixed(1)} ppm` : '—'],
    ['level', `${reading.level.mean.toFixed(1)} dB`],
  ];
  return (
    <section className="grid gap-4" aria-label="What was read">
      <p>
        <b className="mr-3 text-base">{name}</b>
        <span className="text-mute">
          {length} · {sampleRate / 1000} kHz{channels > 1 ? `, channel ${channel + 1} of ${channels}` : ''} ·{' '}
          {timecode.codeWords(reading)}
        </span>
      </p>
      {missing > 0 && (
        <p className="text-warning">
          <Mark state="risky" size={13} /> The file ends {(missing / sampleRate).toFixed(1)} s before it says.
        </p>
      )}
      <DriftPlot reading={reading} />
      <Facts facts={facts} />
      <p className="text-mute">{timecode.clockWords(reading)}</p>
      {reading.impossible > 0 && (
        <p className="text-warning">
          <Mark state="risky" size={13} /> {reading.impossible} numbers that drop-frame leaves out were there: it says
          drop-frame, and counts otherwise.
        </p>
      )}
      <Breaks reading={reading} />
    </section>
  );
}

function Breaks({ reading }: { readonly reading: timecode.Reading }) {
  const rate = timecode.rates[reading.rate];
  if (reading.breaks.length === 0)
    return (
      <p className="text-success">
        <Mark state="pass" size={13} /> No break from its first word to its last.
      </p>
    );
  return (
    <table className="w-full max-w-3xl text-[13px]">
      <caption className="pb-1 text-left font-bold">
        {reading.breaks.length + reading.moreBreaks}{' '}
        {reading.breaks.length + reading.moreBreaks === 1 ? 'break' : 'breaks'}
      </caption>
      <tbody>
        {reading.breaks.slice(0, 100).map((found, at) => (
          <tr key={at} className="border-t border-rule">
            <td className="key-num w-28 px-2.5 py-1">{found.at.toFixed(3)} s</td>
            <td className="px-2.5 py-1">{timecode.breakWords(found, rate)}</td>
          </tr>
        ))}
      </tbody>
    </table>
  );
}
