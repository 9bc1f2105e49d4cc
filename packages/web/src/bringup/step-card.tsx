import { bringup, rig, type contract, type Show } from '@deep-patch/core';
import { TriangleAlert } from 'lucide-react';
import { useNow } from '../parts/use-now.ts';
import { confirmTexts } from './confirm-words.ts';
import { takenBy } from './steps-in-order.ts';

type Step = bringup.BringUpStep;

interface Props {
  readonly show: Show;
  readonly plan: bringup.BringUp;
  readonly step: Step;
  readonly number: number;
  readonly total: number;
  readonly checks: contract.ConfirmingState | undefined;
}

/** One step, big enough to be read from a console a metre away: the figures first. */
export function StepCard({ show, plan, step, number, total, checks }: Props) {
  const words = bringup.stepWords(show, plan, step);
  const repeat = bringup.repeatOf(show, step);
  const figures = repeat?.differs ?? bringup.figuresOf(step);
  const notes = bringup.stepNotes(show, plan, step, useNow(3_600_000));
  const by = takenBy(show, step);
  return (
    <section aria-label={words.title}>
      <p className="key-num font-semibold text-primary">
        Step {number} of {total}
        {by !== undefined && <span className="ml-3 font-sans font-normal text-mute">{by} is on it</span>}
      </p>
      <h2 className="mt-1 text-xl font-bold text-balance">{words.title}</h2>
      <p className="mt-1 text-mute">{words.where}</p>
      {figures.length > 0 && <Figures figures={figures} />}
      {repeat && <AsBefore repeat={repeat} />}
      {notes.length > 0 && (
        <ul className="mt-4 grid list-disc gap-1 pl-5 text-[13px]">
          {notes.map((note) => (
            <li key={note}>{note}</li>
          ))}
        </ul>
      )}
      {step.kind === 'confirm' && checks && <Checks state={checks} />}
      {words.then && (
        <p className="mt-4 flex gap-2 border-l-3 border-warning bg-base-300 px-3.5 py-2.5 text-[13px]">
          <TriangleAlert size={15} className="mt-0.5 shrink-0 text-warning" aria-hidden />
          {words.then}
        </p>
      )}
      {step.acts.length > 0 && step.kind !== 'restart' && (
        <p className="mt-3 text-[13px]">
          At the unit: {rig.actWords(step.acts)}. <span className="text-mute">Without it nothing is kept.</span>
        </p>
      )}
      <Waiting show={show} plan={plan} step={step} />
      <p className="mt-2 text-[13px] text-mute">
        <b className="font-semibold">Why here?</b> {words.why}
      </p>
    </section>
  );
}

function Figures({ figures }: { readonly figures: readonly bringup.Figure[] }) {
  return (
    <table className="mt-4 w-full border-separate border-spacing-0 overflow-hidden rounded-box border border-line">
      <tbody>
        {figures.map(({ label, value, was }, at) => (
          <tr key={`${label} ${at}`} className="bg-base-200 align-baseline">
            <th scope="row" className="w-32 border-b border-rule px-4 py-2 text-left font-normal text-mute">
              {label}
            </th>
            <td className={`border-b border-rule px-2 py-2 font-mono break-words ${bigness(value)}`}>{value}</td>
            <td className="hidden w-44 border-b border-rule px-4 py-2 text-[13px] text-mute sm:table-cell">
              {was === '' ? '' : was === value ? 'same as now' : `was ${was}`}
            </td>
          </tr>
        ))}
      </tbody>
    </table>
  );
}

/** What is keyed in just as at the unit before: said in a line, and there in full for whoever wants it. */
function AsBefore({ repeat: { like, same } }: { readonly repeat: bringup.Repeat }) {
  return (
    <details className="mt-3 text-[13px]">
      <summary className="cursor-pointer">
        <b className="font-semibold">As at {like.name}:</b>{' '}
        <span className="text-mute">{same.map(({ label }) => label).join(', ')}</span>
      </summary>
      <Figures figures={same} />
    </details>
  );
}

/** An address is read from afar; a whole sentence is not. */
const bigness = (value: string): string =>
  value.length <= 18 ? 'text-[22px]' : value.length <= 40 ? 'text-base' : 'text-sm';

function Checks({ state }: { readonly state: contract.ConfirmingState }) {
  return (
    <ul className="mt-3 grid gap-1 text-[13px]" aria-label="What was asked">
      {state.checks.map((check) => (
        <li
          key={check.key}
          className={check.state === 'fail' ? 'text-error' : check.state === 'pass' ? '' : 'text-mute'}
        >
          <span aria-hidden>{{ pass: '✓', fail: '✕', waits: '–' }[check.state]}</span>{' '}
          {confirmTexts[check.key][check.state](check.facts)}
        </li>
      ))}
    </ul>
  );
}

/** Who waits for this step, in a line. */
function Waiting({ show, plan, step }: Pick<Props, 'show' | 'plan' | 'step'>) {
  const names = step.waiting.flatMap((key) => {
    const other = plan.steps.find((each) => each.key === key);
    return other && other.deviceId !== step.deviceId ? [show.devices[other.deviceId]?.name ?? ''] : [];
  });
  const all = [...new Set(names)].filter(Boolean);
  if (all.length === 0) return null;
  const shown = all.slice(0, 4).join(', ');
  return (
    <p className="mt-3 text-[13px] text-mute">
      Waiting for this step: {shown}
      {all.length > 4 ? ` and ${all.length - 4} more` : ''}.
    </p>
  );
}
