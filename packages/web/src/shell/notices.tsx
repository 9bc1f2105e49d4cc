import { X } from 'lucide-react';
import { useNotices } from '../live/notices.tsx';
import { useWorkspace } from '../live/workspace.tsx';

interface Fault {
  readonly at: string;
  readonly message: string;
}

export function NoticeList() {
  const { notices, dismiss } = useNotices();
  const { step } = useWorkspace();
  return (
    <div
      className="pointer-events-none fixed right-4 bottom-10 z-50 grid w-96 max-w-[calc(100vw-2rem)] gap-2"
      role="status"
      aria-live="polite"
    >
      {notices.map(({ id, text, problem, undo, retry }) => (
        <div
          key={id}
          className={`pointer-events-auto flex items-start gap-3 rounded-box border bg-base-300 px-3.5 py-2.5 shadow-lg ${problem ? 'border-error' : 'border-line'}`}
        >
          <div className="min-w-0 flex-1">
            <p className={problem ? 'font-semibold' : 'truncate'}>{problem ? problem.message : text}</p>
            {problem && <p className="text-mute">{problem.detail}</p>}
            {problem && <FaultList faults={problem.facts['faults'] as Fault[] | undefined} />}
          </div>
          {undo && (
            <button
              type="button"
              className="link shrink-0 font-semibold text-primary"
              onClick={() => {
                dismiss(id);
                void step('undo');
              }}
            >
              Take back
            </button>
          )}
          {retry && (
            <button
              type="button"
              className="link shrink-0 font-semibold text-primary"
              onClick={() => {
                dismiss(id);
                retry();
              }}
            >
              Try again
            </button>
          )}
          <button
            type="button"
            onClick={() => dismiss(id)}
            aria-label="Dismiss"
            className="text-mute hover:text-base-content"
          >
            <X size={14} aria-hidden />
          </button>
        </div>
      ))}
    </div>
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

const awayWords = {
  no: 'Deep Patch does not answer.',
  away: 'The database does not answer.',
  full: 'The database stopped: the disk is full.',
};

/** Above the screen while the server or its database cannot be reached; goes by itself when they are back. */
export function ConnectionNotice() {
  const { connection, databaseAway } = useWorkspace();
  if (connection !== 'lost' && databaseAway === 'no') return null;
  return (
    <p role="alert" className="flex items-center gap-2 border-b border-warning bg-warning/15 px-4 py-1.5 text-[13px]">
      <span className="loading loading-ring loading-xs" aria-hidden />
      <span>
        <b>{awayWords[databaseAway]}</b> {databaseAway === 'full' && 'Make room on the computer that runs Deep Patch. '}
        What you see is the last known plan. Nothing can be saved until it is back; this goes by itself.
      </span>
    </p>
  );
}
