import { cabling, findings, show as core } from '@deep-patch/core';
import { useState } from 'react';
import { Link } from 'react-router';
import { useBench } from '../bench/use-bench.ts';
import { useBenchPart } from '../live/bench-store.ts';
import { useShow, useWorkspace } from '../live/workspace.tsx';

/** From setting up to the show and back: what comes out, goes in and moves, and what to look at afterwards. */
export function ChangeoverView() {
  const show = useShow();
  const [to, setTo] = useState<cabling.Stage>('show');
  const [done, setDone] = useState<ReadonlySet<string>>(new Set());
  const steps = cabling.changeover(show, to);
  const tick = (id: string) =>
    setDone((before) => new Set(before.has(id) ? [...before].filter((one) => one !== id) : [...before, id]));
  return (
    <div
      className="grid min-w-0 flex-1 auto-rows-max grid-cols-[minmax(0,1fr)] content-start gap-4 overflow-auto p-4.5"
      tabIndex={0}
      role="region"
      aria-label="Changeover"
    >
      <div className="flex flex-wrap items-center gap-3">
        <div role="group" aria-label="Change over to" className="join">
          {(['show', 'setup'] as const).map((stage) => (
            <button
              key={stage}
              type="button"
              className={`act join-item ${stage === to ? 'border-primary' : ''}`}
              aria-pressed={stage === to}
              onClick={() => {
                setTo(stage);
                setDone(new Set());
              }}
            >
              {stage === 'show' ? 'To the show' : 'Back to set-up'}
            </button>
          ))}
        </div>
        <BenchStage />
      </div>
      {steps.length === 0 ? (
        <p className="max-w-2xl text-mute">
          Every run is there always, so nothing moves between set-up and show. In the table, “When” of a run says
          otherwise: set-up only, or show only.
        </p>
      ) : (
        <ol aria-label="What to move" className="grid max-w-4xl gap-2 text-[13px]">
          {steps.map((step) => (
            <Step key={step.cable.id} step={step} isDone={done.has(step.cable.id)} onTick={() => tick(step.cable.id)} />
          ))}
        </ol>
      )}
      {steps.length > 0 && (
        <p className="text-[13px] text-mute" aria-live="polite">
          {done.size} of {findings.counted(steps.length, 'step')} done.
        </p>
      )}
    </div>
  );
}

const actWords = { pull: 'Pull', plug: 'Plug in', move: 'Move' } as const;

function Step({
  step: { act, cable, into, words, check },
  isDone,
  onTick,
}: {
  readonly step: cabling.ChangeoverStep;
  readonly isDone: boolean;
  readonly onTick: () => void;
}) {
  const show = useShow();
  return (
    <li className={`flex items-baseline gap-3 rounded-box border border-rule p-2.5 ${isDone ? 'opacity-60' : ''}`}>
      <input
        type="checkbox"
        className="checkbox checkbox-xs"
        checked={isDone}
        aria-label={`Done: ${actWords[act]} ${words}`}
        onChange={onTick}
      />
      <div>
        <p>
          <b>{actWords[act]}</b> {act === 'move' ? `${cabling.runWords(show, cable)}: now ${words}` : words}
        </p>
        <p className="text-mute">
          <Check check={check} cable={into ?? cable} />
        </p>
      </div>
    </li>
  );
}

/** What to look at once it is plugged in. */
function Check({ check, cable }: { readonly check: cabling.ChangeoverStep['check']; readonly cable: core.Cable }) {
  const show = useShow();
  const { showId } = useWorkspace();
  if (check === 'gone') return 'Afterwards: the links of the show still reach the bottom without it.';
  if (check === 'picture') return 'Afterwards: a test picture through the final path.';
  if (check === 'lamp') return 'Afterwards: the lamp at both ends.';
  const own = core
    .rowsOf(show, 'links')
    .filter(({ controllerId, targetId }) =>
      [controllerId, targetId].some((id) => id === cable.fromDevice || id === cable.toDevice),
    );
  if (own.length === 0) return 'Afterwards: the lamp at both ends.';
  return (
    <>
      Afterwards sound{' '}
      {own.slice(0, 4).map((link, at) => (
        <span key={link.id}>
          {at > 0 && ', '}
          <Link className="hover:underline" to={`/shows/${showId}/links/${link.id}`}>
            {show.devices[link.controllerId]?.name} → {show.devices[link.targetId]?.name}
          </Link>
        </span>
      ))}
      {own.length > 4 && ` and ${own.length - 4} more`}.
    </>
  );
}

/** Which of the two lies on the bench. */
function BenchStage() {
  const { act } = useBench();
  const stage = useBenchPart((bench) => bench?.stage);
  if (!stage) return null;
  const other = stage === 'show' ? 'setup' : 'show';
  return (
    <span className="flex items-center gap-2 text-[13px] text-mute">
      On the bench {stage === 'show' ? 'the runs of the show' : 'the runs of set-up'} are plugged in.
      {stage === 'setup' && ' What the plan forecasts is of the show.'}
      <button type="button" className="act btn-xs" onClick={() => void act({ act: 'change_over', stage: other })}>
        {other === 'show' ? 'Change it over to the show' : 'Change it over to set-up'}
      </button>
    </span>
  );
}
