import { useWorkspace } from '../live/workspace.tsx';

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
