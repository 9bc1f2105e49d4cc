import { cabling } from '@deep-patch/core';
import { useShow } from '../live/workspace.tsx';

const mostShown = 200;

/** Every run as it would be, before it is done. */
export function RunsPreview({ runs }: { readonly runs: readonly cabling.PlannedRun[] }) {
  const show = useShow();
  if (runs.length === 0) return null;
  return (
    <ol
      aria-label="Runs as they would be"
      className="max-h-64 overflow-auto rounded-box border border-rule"
      tabIndex={0}
    >
      {runs.slice(0, mostShown).map(({ line, from, to, medium, grade, lengthM }) => (
        <li key={line} className="grid grid-cols-[1fr_1fr_5rem] gap-2 border-b border-rule px-3 py-1 text-[13px]">
          <span className="truncate">{cabling.endWords(show, from.deviceId, from.socket)}</span>
          <span className="truncate">
            <span className="text-mute">to</span> {cabling.endWords(show, to.deviceId, to.socket)}
          </span>
          <span className="text-mute">
            {cabling.kindWords({ medium, grade })}
            {lengthM !== null && `, ${lengthM} m`}
          </span>
        </li>
      ))}
      {runs.length > mostShown && <li className="px-3 py-1 text-mute">and {runs.length - mostShown} more</li>}
    </ol>
  );
}
