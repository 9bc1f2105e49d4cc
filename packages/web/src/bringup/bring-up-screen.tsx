import { bringup, type Show } from '@deep-patch/core';
import { useEffect, useMemo, useRef, type ReactNode } from 'react';
import { useNavigate, useParams } from 'react-router';
import { useBench } from '../bench/use-bench.ts';
import { useBenchPart } from '../live/bench-store.ts';
import { useShow, useWorkspace } from '../live/workspace.tsx';
import { Empty, Loading } from '../parts/empty.tsx';
import { FirstSteps } from '../parts/first-steps.tsx';
import { Acceptance } from './acceptance.tsx';
import { BringUpHead } from './bring-up-head.tsx';
import { LeftOut } from './left-out.tsx';
import { StationStrip } from './station-strip.tsx';
import { StepActs } from './step-acts.tsx';
import { StepCard } from './step-card.tsx';
import { StepList } from './step-list.tsx';
import { nextFor } from './steps-in-order.ts';
import { ownName } from './own-name.ts';
import { useBringUp } from './use-bring-up.ts';
import { useHandwork } from './use-handwork.ts';
import { useSheet, type Sheet } from './use-sheet.ts';
import { useSwipe } from './use-swipe.ts';

/** The ordered work of setting every unit: the computer's moves on top, the steps at the left, one of them large. */
export function BringUpScreen() {
  const show = useShow();
  const { analysis } = useWorkspace();
  const { plan } = useBringUp(show);
  const sheet = useSheet(show, plan, analysis?.addressing);
  useHandwork(show, plan, sheet);
  useBench();
  const isEmpty = Object.keys(show.devices).length === 0;
  return (
    <>
      <BringUpHead show={show} plan={plan} />
      {isEmpty ? (
        <div className="flex-1 border-t border-rule">
          <Empty text="Nothing to set yet. Put the units into the rig and give them addresses; the order is worked out from that.">
            <FirstSteps />
          </Empty>
        </div>
      ) : plan === undefined ? (
        <Loading />
      ) : plan.computer === undefined ? (
        <div className="flex-1 border-t border-rule">
          <Empty text="Add the computer that you set everything from to the rig: a computer with its network adapter. Then the order is worked out." />
        </div>
      ) : plan.steps.length === 0 ? (
        <AllDone show={show} plan={plan} />
      ) : (
        <OpenSheet show={show} plan={plan} sheet={sheet} />
      )}
    </>
  );
}

function AllDone({ show, plan }: { readonly show: Show; readonly plan: bringup.BringUp }) {
  return (
    <div className="flex-1 overflow-auto border-t border-rule p-6">
      <p className="text-lg font-semibold">
        {plan.blocked.length === 0
          ? 'Every unit is set and confirmed.'
          : 'Everything that can be set is set and confirmed.'}
      </p>
      <p className="mt-1 text-mute">Sound every link next, to prove that what was set also works together.</p>
      <Acceptance show={show} plan={plan} />
      <LeftOut show={show} plan={plan} />
    </div>
  );
}

interface OpenProps {
  readonly show: Show;
  readonly plan: bringup.BringUp;
  readonly sheet: Sheet;
}

function OpenSheet({ show, plan, sheet }: OpenProps) {
  const { showId } = useWorkspace();
  const navigate = useNavigate();
  const { stepKey } = useParams();
  const name = ownName() || 'crew';
  const next = useMemo(() => nextFor(show, plan, name), [show, plan, name]);
  // a step that was done meanwhile, or that stands in a link from a paper, gives way to the next one
  const step = plan.steps.find(({ key }) => key === stepKey) ?? next ?? plan.steps[0];
  const at = plan.steps.findIndex(({ key }) => key === step?.key);
  const doneCount = useMemo(() => bringup.doneLog(show).filter(({ what }) => what === 'done').length, [show]);
  const look = (to: number) => {
    const wanted = plan.steps[Math.max(0, Math.min(plan.steps.length - 1, to))];
    if (wanted) void navigate(`/shows/${showId}/bring-up/${encodeURIComponent(wanted.key)}`, { replace: true });
  };
  const back = () => void navigate(`/shows/${showId}/bring-up`, { replace: true });
  const benchIsOn = useBenchPart(
    (bench) => bench?.standins.some(({ deviceId, powered }) => deviceId === plan.computer?.id && powered) ?? false,
  );
  const swipe = useSwipe((direction) => look(at + direction));
  if (!step) return null;
  const station = plan.stations.findIndex((one) => one.steps.some(({ key }) => key === step.key));
  const number = doneCount + at + 1;
  return (
    <>
      <StationStrip
        show={show}
        plan={plan}
        chosen={station}
        onChoose={(to) => look(plan.steps.findIndex(({ key }) => key === plan.stations[to]?.steps[0]?.key))}
      />
      <div className="flex min-h-0 flex-1">
        <StepList
          show={show}
          plan={plan}
          chosen={step.key}
          nextKey={next?.key}
          onChoose={(key) => look(plan.steps.findIndex((one) => one.key === key))}
        />
        <Keys onMove={(by) => look(at + by)} className="min-w-0 flex-1 overflow-auto p-4 sm:p-7" swipe={swipe}>
          <StepCard
            {...{ show, plan, step, number }}
            total={doneCount + plan.steps.length}
            checks={sheet.checks?.key === step.key ? sheet.checks.state : undefined}
          />
          <StepActs
            {...{ show, plan, step, sheet, benchIsOn, name }}
            isNext={step.key === next?.key}
            onDone={back}
            onLook={(by) => look(at + by)}
          />
          <LeftOut show={show} plan={plan} />
        </Keys>
      </div>
    </>
  );
}

/** Arrows look ahead and back wherever the focus is, but for fields in which they mean something. */
function Keys({
  onMove,
  swipe,
  className,
  children,
}: {
  readonly onMove: (by: number) => void;
  readonly swipe: ReturnType<typeof useSwipe>;
  readonly className: string;
  readonly children: ReactNode;
}) {
  const move = useRef(onMove);
  useEffect(() => {
    move.current = onMove;
  });
  useEffect(() => {
    const heed = (event: KeyboardEvent) => {
      const by =
        event.key === 'ArrowDown' || event.key === 'ArrowRight'
          ? 1
          : event.key === 'ArrowUp' || event.key === 'ArrowLeft'
            ? -1
            : 0;
      const target = event.target as HTMLElement;
      if (by === 0 || event.ctrlKey || event.altKey || event.metaKey) return;
      if (target.closest('input, select, textarea, dialog, [role="tablist"]')) return;
      event.preventDefault();
      move.current(by);
    };
    window.addEventListener('keydown', heed);
    return () => window.removeEventListener('keydown', heed);
  }, []);
  return (
    <div className={className} {...swipe}>
      {children}
    </div>
  );
}
