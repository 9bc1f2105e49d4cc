import { onair, type show as core } from '@deep-patch/core';
import { useState } from 'react';
import { useBench } from '../bench/use-bench.ts';
import { useBenchPart } from '../live/bench-store.ts';
import { useShow } from '../live/workspace.tsx';
import { HeadRow } from '../parts/head-row.tsx';
import { Mark } from '../parts/mark.tsx';

const words = {
  on_air: 'is on air',
  starts: 'starts',
  stops: 'stops, and is dark',
  holds: 'holds its picture',
  ready: 'is made ready',
  ends: 'ends, and holds its last picture',
  nothing: 'has no player: nothing happens',
} as const;

/** A sequence of cuts, typed or clicked: what it starts, stops and makes ready, worked out and on the bench. */
export function HappenView({
  switcher,
  inputs,
}: {
  readonly switcher: core.Device;
  readonly inputs: readonly onair.AirInput[];
}) {
  const show = useShow();
  const [text, setText] = useState('');
  const [onAir, setOnAir] = useState(inputs[0]?.number ?? 1);
  const { deeds, faults } = onair.readDeeds(text);
  const known = deeds.filter(({ input }) => inputs.some(({ number }) => number === input));
  const unknown = deeds.filter((deed) => !known.includes(deed));
  const forecast = onair.whatHappens(show, switcher.id, known, onAir);
  const { happened, isRunning, fault, run } = useTried(switcher.id, known, onAir);
  return (
    <div className="grid max-w-4xl gap-4">
      <div className="grid gap-2">
        <label className="grid gap-1 text-[13px] text-mute">
          Cuts, one after the other, such as 5, 1 at 12, play 7 at 20, select 7 Breaks at 30
          <input
            className="field"
            value={text}
            maxLength={1000}
            onChange={(event) => setText(event.target.value)}
            placeholder="5, 1 at 12, 5"
          />
        </label>
        <Pressed {...{ inputs, onAir }} isEmpty={text === ''} onText={setText} onOnAir={setOnAir} />
        {[...faults, ...unknown.map(({ input }) => `${switcher.name} has no input ${input}.`)].map((fault) => (
          <p key={fault} className="text-[13px] text-error" role="alert">
            {fault}
          </p>
        ))}
      </div>
      {known.length > 0 && (
        <>
          <Compared {...{ forecast, happened, inputs }} />
          <button type="button" className="act-main justify-self-start" disabled={isRunning} onClick={run}>
            {isRunning ? 'Being tried…' : 'The same on the bench'}
          </button>
          {fault && <p className="text-[13px] text-error">It ended early: {fault}.</p>}
        </>
      )}
    </div>
  );
}

/** Cuts that are clicked, and what is on air before them. */
function Pressed({
  inputs,
  onAir,
  isEmpty,
  onText,
  onOnAir,
}: {
  readonly inputs: readonly onair.AirInput[];
  readonly onAir: number;
  readonly isEmpty: boolean;
  readonly onText: (text: string | ((now: string) => string)) => void;
  readonly onOnAir: (input: number) => void;
}) {
  return (
    <div className="flex flex-wrap items-center gap-1.5">
      {inputs.map(({ number, label }) => (
        <button
          key={number}
          type="button"
          className="act"
          title={label}
          onClick={() => onText((now) => [now.trim().replace(/,$/, ''), String(number)].filter(Boolean).join(', '))}
        >
          {number}
        </button>
      ))}
      <label className="ml-3 flex items-center gap-2 text-[13px] text-mute">
        on air first
        <select
          className="field-select h-8 w-20"
          value={onAir}
          onChange={(event) => onOnAir(Number(event.target.value))}
        >
          {inputs.map(({ number }) => (
            <option key={number} value={number}>
              {number}
            </option>
          ))}
        </select>
      </label>
      <button type="button" className="act-quiet" disabled={isEmpty} onClick={() => onText('')}>
        Clear
      </button>
    </div>
  );
}

/** The same on a bench of its own: what it did, once it is over, as long as the cuts are still the same. */
function useTried(switcherId: string, deeds: readonly onair.Deed[], onAir: number) {
  const { act } = useBench();
  const trial = useBenchPart((state) =>
    state?.trial?.of === 'cuts' && state.trial.switcherId === switcherId ? state.trial : undefined,
  );
  const [askedFor, setAskedFor] = useState('');
  const key = JSON.stringify([deeds, onAir]);
  const isRunning = trial?.running === true;
  const isOwn = askedFor === key && !isRunning;
  return {
    happened: isOwn && trial ? (trial.happened as onair.Happening[]) : undefined,
    fault: isOwn ? (trial?.fault ?? null) : null,
    isRunning,
    run: () => {
      setAskedFor(key);
      void act({ act: 'try_cuts', switcherId, onAir, deeds: [...deeds] });
    },
  };
}

/** Both beside each other, with the place where they part. */
function Compared({
  forecast,
  happened,
  inputs,
}: {
  readonly forecast: readonly onair.Happening[];
  readonly happened: readonly onair.Happening[] | undefined;
  readonly inputs: readonly onair.AirInput[];
}) {
  const difference = happened && onair.firstDifference(forecast, happened);
  const rows = Math.max(forecast.length, happened?.length ?? 0);
  const line = (one: onair.Happening | undefined) =>
    one ? <Line {...{ one, inputs }} /> : <span className="text-mute">nothing more</span>;
  if (rows === 0) return <p className="text-mute">Nothing changes: that input is on air already.</p>;
  return (
    <div className="grid gap-2">
      {happened && (
        <p className={difference ? 'text-error' : 'text-success'}>
          <Mark state={difference ? 'fail' : 'pass'} size={13} />{' '}
          {difference
            ? 'The bench did something else, from the marked line on. Look whether its orders arrive: Links says where they stop.'
            : 'The bench did the same.'}
        </p>
      )}
      <table className="w-full text-[13px]">
        <HeadRow heads={['worked out', ...(happened ? ['on the bench'] : [])]} />
        <tbody>
          {Array.from({ length: rows }, (_, at) => (
            <tr key={at} className={`border-t border-rule ${difference?.at === at ? 'bg-error/12' : ''}`}>
              <td className="px-2.5 py-1">{line(forecast[at])}</td>
              {happened && <td className="px-2.5 py-1">{line(happened[at])}</td>}
            </tr>
          ))}
        </tbody>
      </table>
    </div>
  );
}

function Line({ one, inputs }: { readonly one: onair.Happening; readonly inputs: readonly onair.AirInput[] }) {
  const input = inputs.find(({ number }) => number === one.input);
  const who =
    one.what === 'on_air' || one.what === 'nothing'
      ? `${one.input} ${input?.label ?? ''}`
      : `${input?.player?.name ?? one.input}${one.item ? `, ${one.item},` : ''}`;
  return (
    <span>
      <span className="key-num mr-3 inline-block w-18 text-right whitespace-nowrap text-mute">
        {one.at.toFixed(2)} s
      </span>
      <b className={one.what === 'on_air' ? 'text-success' : ''}>{who}</b> {words[one.what]}
    </span>
  );
}
