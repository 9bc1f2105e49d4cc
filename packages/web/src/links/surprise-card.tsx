import type { show as core } from '@deep-patch/core';
import { useBench } from '../bench/use-bench.ts';
import { useWorkspace } from '../live/workspace.tsx';

const surpriseWords = {
  off: ['No lamp on the bench.', 'A stand-in or a switch on the way has no power. Power it on and sound again.'],
  unheard: [
    'It was sent, and nothing came back.',
    'The message, the function or the application behind it may be why: no packet tells. Look at the target’s own screen.',
  ],
  admin: [
    'It is as it came from its case, and asks for an administrator before it does anything.',
    'Make one at the unit: it gets the account that the plan has for it.',
  ],
  other: [
    'The bench saw something that the plan does not explain.',
    'Look at both units on the bench, and at every switch between them.',
  ],
} as const;

/** The bench failed where the plan passes: most often something has no power. */
export function SurpriseCard({
  measured,
  unheard,
  targetId,
}: {
  measured: core.MeasuredLayer;
  unheard: boolean;
  targetId: string;
}) {
  const { show } = useWorkspace();
  const { power, act } = useBench();
  const off = measured.layer === 'cable';
  const admin = measured.code === 'first_sign_in';
  const kind = off ? 'off' : admin ? 'admin' : unheard && measured.layer === 'reply' ? 'unheard' : 'other';
  return (
    <div className="relative my-1.5 bg-base-200">
      <div className="rounded-sm border-l-3 border-error bg-error/12 px-3 py-2.5 text-[13px]">
        <b>{surpriseWords[kind][0]}</b> {surpriseWords[kind][1]}
        {admin && (
          <div className="mt-2">
            <button
              type="button"
              className="act-main"
              onClick={() => void act({ act: 'make_administrator', deviceId: targetId })}
            >
              Make the administrator
            </button>
          </div>
        )}
        {off && (
          <div className="mt-2">
            <button
              type="button"
              className="act-main"
              onClick={() => void power(Object.keys(show?.devices ?? {}), true)}
            >
              Power on all stand-ins
            </button>
          </div>
        )}
      </div>
    </div>
  );
}
