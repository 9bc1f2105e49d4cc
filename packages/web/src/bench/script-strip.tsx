import { type contract, show as core } from '@deep-patch/core';
import { useShow } from '../live/workspace.tsx';
import { Mark } from '../parts/mark.tsx';
import { Elapsed, GuessForm, timeWords } from './guess-form.tsx';
import type { DoOnBench } from './use-bench.ts';

/** A scripted rehearsal: what was found, how long it took, and what is still hidden. */
export function ScriptStrip({ script, act }: { script: contract.ScriptState; act: DoOnBench }) {
  const found = script.steps.filter(({ state }) => state === 'found').length;
  const hidden = script.steps.filter(({ hidden, state }) => hidden && state !== 'refused').length;
  return (
    <section
      aria-label="Scripted rehearsal"
      className="grid gap-2 border-b border-rule bg-base-200 px-4.5 py-2.5"
      aria-live="polite"
    >
      <div className="flex flex-wrap items-end gap-3">
        <p className="mr-auto max-w-md">
          <b>{script.title}</b>: {found} of {hidden} hidden faults found
          {script.wrong > 0 && `, ${script.wrong} wrong ${script.wrong === 1 ? 'guess' : 'guesses'}`}.{' '}
          {script.over ? 'It is over; everything is mended.' : <Elapsed since={script.startedAt} />}
        </p>
        {!script.over && (
          <GuessForm
            act="script_guess"
            onAct={act}
            deviceId={undefined}
            giveUp={() => void act({ act: 'end_script' })}
            giveUpLabel="End it"
          />
        )}
        {script.over && (
          <button type="button" className="act-quiet" onClick={() => void act({ act: 'close_script' })}>
            Done
          </button>
        )}
      </div>
      <ol className="flex flex-wrap gap-x-5 gap-y-1 text-[13px]">
        {script.steps.map((step, at) => (
          <li key={at} className="flex items-center gap-1.5">
            <Mark state={marks[step.state]} size={11} />
            <StepWords step={step} number={at + 1} />
          </li>
        ))}
      </ol>
    </section>
  );
}

const marks = { waiting: 'waits', set: 'risky', found: 'pass', cleared: 'waits', refused: 'fail' } as const;

function StepWords({
  step: { kind, deviceId, state, tookMs, reason },
  number,
}: {
  step: contract.ScriptStepState;
  number: number;
}) {
  const { devices } = useShow();
  const name = deviceId === null ? '' : (devices[deviceId]?.name ?? 'a unit that is gone');
  if (kind === null)
    return (
      <span className="text-mute">
        fault {number}{' '}
        {state === 'waiting' ? 'is still to come' : state === 'refused' ? 'could not be set' : 'is hidden'}
      </span>
    );
  const how = {
    waiting: 'to come',
    set: 'now',
    found: `found in ${timeWords(tookMs ?? 0)}`,
    cleared: 'not found, mended',
    refused: `could not be set: ${reason}`,
  }[state];
  return (
    <span>
      {core.faults[kind].is} at {name} <span className="text-mute">{how}</span>
    </span>
  );
}
