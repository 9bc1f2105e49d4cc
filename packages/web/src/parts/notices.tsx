import { X } from 'lucide-react';
import { useNotices, useProblems, type Notice } from '../live/notices.tsx';

interface Fault {
  readonly at: string;
  readonly message: string;
}

/** What went wrong, where it takes room of its own and covers nothing; it stays until it is read. */
export function ProblemList() {
  return (
    <div role="status" aria-live="polite" className="shrink-0">
      {useProblems().flatMap(({ problem, ...notice }) =>
        problem
          ? [
              <div key={notice.id} className="flex items-start gap-3 border-t border-error bg-base-300 px-4 py-2">
                <div className="max-h-40 min-w-0 flex-1 overflow-auto">
                  <p className="font-semibold">{problem.message}</p>
                  <p className="text-mute">{problem.detail}</p>
                  <FaultList faults={problem.facts['faults'] as Fault[] | undefined} />
                </div>
                <NoticeActs notice={notice} />
              </div>,
            ]
          : [],
      )}
    </div>
  );
}

/** What was done, in the bar at the bottom: it covers nothing, and goes by itself. */
export function DoneNotice() {
  const { notices } = useNotices();
  const done = notices.findLast(({ problem }) => !problem);
  return (
    <div role="status" aria-live="polite" className="ml-auto flex min-w-0 items-center gap-3">
      {done && (
        <>
          <span className="truncate text-base-content">{done.text}</span>
          <NoticeActs notice={done} />
        </>
      )}
    </div>
  );
}

function NoticeActs({ notice: { id, undo, retry } }: { readonly notice: Notice }) {
  const { dismiss } = useNotices();
  const after = (act: () => void) => () => {
    dismiss(id);
    act();
  };
  return (
    <>
      {undo && (
        <button type="button" className="link shrink-0 font-semibold text-primary" onClick={after(undo)}>
          Take back
        </button>
      )}
      {retry && (
        <button type="button" className="link shrink-0 font-semibold text-primary" onClick={after(retry)}>
          Try again
        </button>
      )}
      <button
        type="button"
        onClick={() => dismiss(id)}
        aria-label="Dismiss"
        className="shrink-0 text-mute hover:text-base-content"
      >
        <X size={14} aria-hidden />
      </button>
    </>
  );
}

function FaultList({ faults }: { faults: Fault[] | undefined }) {
  if (!faults) return null;
  return (
    <ul className="mt-1 list-disc pl-4 text-xs">
      {faults.slice(0, 6).map(({ at, message }) => (
        <li key={`${at} ${message}`}>
          <code>{at}</code> {message}
        </li>
      ))}
    </ul>
  );
}
