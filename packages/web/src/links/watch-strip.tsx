import type { contract } from '@deep-patch/core';
import { Link } from 'react-router';
import { useShow, useWorkspace } from '../live/workspace.tsx';
import { Mark } from '../parts/mark.tsx';

const mostShown = 6;

/** Links under watch: what changed since, the newest first. */
export function WatchStrip({ watch }: { watch: contract.WatchState }) {
  const { devices, links } = useShow();
  const { showId } = useWorkspace();
  if (watch.everySeconds === null && watch.changes.length === 0) return null;
  const latest = watch.changes.slice(-mostShown).reverse();
  return (
    <section aria-label="Links under watch" aria-live="polite" className="border-t border-rule bg-base-200 px-4.5 py-2">
      <p className="text-xs text-mute">
        {watch.everySeconds === null
          ? 'Not watched any more. What changed while it was:'
          : `Every link is looked at every ${watch.everySeconds} s. No command is sent, so the show goes on; what only a command tells is not proved. ${latest.length === 0 ? 'Nothing changed so far.' : 'What changed:'}`}
      </p>
      <ul className="flex flex-wrap gap-x-5 gap-y-0.5">
        {latest.map(({ at, linkId, from, to }) => (
          <li key={`${at} ${linkId}`} className="flex items-center gap-1.5">
            <Mark state={to === null ? 'pass' : 'fail'} size={11} />
            <span className="font-mono text-xs text-mute">{new Date(at).toLocaleTimeString('en-GB')}</span>
            <Link className="hover:underline" to={`/shows/${showId}/links/${linkId}`}>
              {devices[links[linkId]?.controllerId ?? '']?.name} → {devices[links[linkId]?.targetId ?? '']?.name}
            </Link>
            <span className="text-mute">
              {to === null
                ? `works again, stopped at ${from}`
                : from === null
                  ? `stops at ${to} now`
                  : `${to}, was ${from}`}
            </span>
          </li>
        ))}
      </ul>
    </section>
  );
}
