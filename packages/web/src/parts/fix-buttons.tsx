import type { findings } from '@deep-patch/core';
import { useSaving, useWorkspace } from '../live/workspace.tsx';

/** A button for each way out that could be worked out; the first one stands out where something is stopped. */
export function FixButtons({ fixes, urgent }: { fixes: readonly findings.Fix[]; urgent: boolean }) {
  const { save } = useWorkspace();
  const saving = useSaving();
  if (fixes.length === 0) return null;
  return (
    <div className="mt-2 flex flex-wrap items-center gap-2">
      {fixes.map(({ label, change, untried }, at) => (
        <button
          key={label}
          type="button"
          // a moment later the plan has been tried with it
          disabled={saving || untried}
          className={at === 0 && urgent ? 'act-main' : 'act'}
          onClick={() => void save(change)}
        >
          {label}
        </button>
      ))}
    </div>
  );
}
