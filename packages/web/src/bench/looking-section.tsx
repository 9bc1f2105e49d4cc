import { type contract, links as linkRoom, type show as core } from '@deep-patch/core';
import { Mark } from '../parts/mark.tsx';
import type { DoOnBench } from './use-bench.ts';

interface Props {
  readonly device: core.Device;
  readonly looking: contract.LookingState | null;
  readonly act: DoOnBench;
}

/** Why a computer does not find this unit: one check after the other, up to the first that fails. */
export function LookingSection({ device, looking, act }: Props) {
  const own = looking?.deviceId === device.id ? looking : undefined;
  return (
    <section className="grid gap-1.5" aria-live="polite">
      <h3 className="text-xs font-semibold text-mute">If it is not found</h3>
      {own && <Checks looking={own} />}
      <button
        type="button"
        className="act btn-xs justify-self-start"
        onClick={() => void act({ act: 'look_for', deviceId: device.id })}
      >
        {own ? 'Look again' : 'Look for it, step by step'}
      </button>
    </section>
  );
}

function Checks({ looking: { from, checks } }: { looking: contract.LookingState }) {
  const failed = checks.find(({ state }) => state === 'fail');
  const words = failed && linkRoom.lookingWords(failed);
  return (
    <>
      <ol className="grid gap-0.5">
        {checks.map((check) => (
          <li key={check.key} className={`flex items-center gap-2 ${check.state === 'waits' ? 'text-faint' : ''}`}>
            <Mark state={check.state} size={11} />
            {linkRoom.lookingWords(check).looks}
          </li>
        ))}
      </ol>
      {words ? (
        <p className="rounded-sm border-l-3 border-error bg-error/12 px-2.5 py-2">
          <b>{words.fails}</b> {words.next}
        </p>
      ) : (
        <p>{from} finds it.</p>
      )}
    </>
  );
}
