import { bringup, type Show } from '@deep-patch/core';
import { Check, Circle, CircleDot, UserRound } from 'lucide-react';
import { useEffect, useMemo, useRef, useState, type RefObject } from 'react';
import { takenBy } from './steps-in-order.ts';

interface Props {
  readonly show: Show;
  readonly plan: bringup.BringUp;
  readonly chosen: string;
  readonly nextKey: string | undefined;
  readonly onChoose: (key: string) => void;
}

const mostDone = 30;

/** What was done last, and everything that is still to be done, in its order. */
export function StepList({ show, plan, chosen, nextKey, onChoose }: Props) {
  const [showsDone, setShowsDone] = useState(false);
  const done = useMemo(() => bringup.doneLog(show).filter(({ what }) => what === 'done'), [show]);
  const here = useRef<HTMLButtonElement>(null);
  useEffect(() => {
    // newer browsers answer with a promise, which an effect must not
    here.current?.scrollIntoView({ block: 'nearest' });
  }, [chosen]);
  return (
    <div className="hidden w-105 shrink-0 overflow-auto border-r border-rule bg-base-200 md:block">
      {done.length > 0 && (
        <button
          type="button"
          className="w-full border-b border-rule px-4 py-2 text-left text-[13px] text-mute"
          aria-expanded={showsDone}
          onClick={() => setShowsDone(!showsDone)}
        >
          <Check size={14} className="mr-2 inline text-success" aria-hidden />
          {done.length} {done.length === 1 ? 'step' : 'steps'} done
        </button>
      )}
      {showsDone && (
        <ol aria-label="Done" className="border-b border-rule text-[13px] text-mute">
          {done.slice(0, mostDone).map((line) => (
            <li key={`${line.deviceId} ${line.step} ${line.at}`} className="px-4 py-1">
              {doneLine(show, line)}
            </li>
          ))}
        </ol>
      )}
      <ol aria-label="Steps">
        {plan.steps.map((step) => (
          <Line
            key={step.key}
            {...{ show, plan, step, onChoose }}
            isChosen={step.key === chosen}
            isNext={step.key === nextKey}
            here={step.key === chosen ? here : undefined}
          />
        ))}
      </ol>
    </div>
  );
}

function Line({
  show,
  plan,
  step,
  isChosen,
  isNext,
  here,
  onChoose,
}: Pick<Props, 'show' | 'plan' | 'onChoose'> & {
  readonly step: bringup.BringUpStep;
  readonly isChosen: boolean;
  readonly isNext: boolean;
  readonly here: RefObject<HTMLButtonElement | null> | undefined;
}) {
  const words = bringup.stepWords(show, plan, step);
  const by = takenBy(show, step);
  const look = isChosen ? 'border-l-primary bg-base-300' : 'border-l-transparent hover:bg-base-300/50';
  const Mark = by !== undefined ? UserRound : isNext ? CircleDot : Circle;
  return (
    <li>
      <button
        ref={here}
        type="button"
        aria-current={isChosen ? 'step' : undefined}
        onClick={() => onChoose(step.key)}
        className={`flex w-full gap-3 border-b border-l-3 border-b-rule px-4 py-2 text-left ${look}`}
      >
        <Mark
          size={16}
          className={`mt-0.5 shrink-0 ${isNext || by !== undefined ? 'text-primary' : 'text-mute'}`}
          aria-hidden
        />
        <span className="min-w-0">
          <span className="block font-medium">{words.title}</span>
          <span className="block truncate text-[13px] text-mute">
            {by === undefined ? words.where : `${by} is on it`}
          </span>
        </span>
      </button>
    </li>
  );
}

const clock = new Intl.DateTimeFormat('en-GB', { hour: '2-digit', minute: '2-digit' });

function doneLine(show: Show, { step, deviceId, by, at }: bringup.LogLine): string {
  const kind = step.split(':')[0] ?? '';
  return `${clock.format(at)} ${show.devices[deviceId]?.name ?? ''}: ${kind.replaceAll('_', ' ')}, ${by}`;
}
