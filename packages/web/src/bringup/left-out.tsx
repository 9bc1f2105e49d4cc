import { bringup, type Show } from '@deep-patch/core';
import { TriangleAlert } from 'lucide-react';
import { useWorkspace } from '../live/workspace.tsx';

/** Units that are not in the order, each with why and what to do. */
export function LeftOut({ show, plan }: { readonly show: Show; readonly plan: bringup.BringUp }) {
  const { save } = useWorkspace();
  if (plan.blocked.length === 0) return null;
  return (
    <section className="mt-8 border-t border-rule pt-4" aria-label="Not in the order">
      <h3 className="text-[13px] font-semibold text-mute">Not in the order · {plan.blocked.length}</h3>
      <ul className="mt-1 grid gap-1.5 text-[13px]">
        {plan.blocked.map((blocked, at) => (
          <li key={`${blocked.deviceId} ${at}`} className="flex flex-wrap items-start gap-2">
            <TriangleAlert size={14} className="mt-0.5 shrink-0 text-warning" aria-hidden />
            <span className="min-w-0 flex-1">
              {bringup.blockedWords(show, blocked)} <Notes show={show} deviceId={blocked.deviceId} />
            </span>
            {blocked.code === 'left_out' && (
              <button
                type="button"
                className="act btn-xs"
                onClick={() => void save(bringup.planTakeUp(show, blocked.deviceId))}
              >
                Take it up again
              </button>
            )}
          </li>
        ))}
      </ul>
    </section>
  );
}

function Notes({ show, deviceId }: { readonly show: Show; readonly deviceId: string }) {
  const notes = show.progress[deviceId]?.left.map(({ note }) => note).filter(Boolean) ?? [];
  return notes.length === 0 ? null : <span className="text-mute">{notes.join('; ')}</span>;
}
