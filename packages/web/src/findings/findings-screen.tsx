import { findings as findingsRoom, wordsOf } from '@deep-patch/core';
import { Link } from 'react-router';
import { useWorkspace } from '../live/workspace.tsx';
import { Empty, Loading } from '../parts/empty.tsx';
import { countWords } from '../parts/grades.ts';
import { FindingCard } from '../parts/finding-card.tsx';
import { ScreenHead } from '../parts/screen-head.tsx';
import { whereOf } from './where-of.ts';

const rooms = {
  rig: 'Rig',
  addressing: 'Addresses',
  cabling: 'Cables',
  links: 'Links',
  surfaces: 'Surfaces',
  cues: 'Cues',
  onair: 'On air',
  timecode: 'Timecode',
  wall: 'LED wall',
} as const;

/** Everything that is wrong, worst first, with its fix beside it. */
export function FindingsScreen() {
  const { analysis, showId, show } = useWorkspace();
  if (!analysis) return <Loading />;
  const { findings } = analysis;
  const counts = findingsRoom.countGrades(findings);
  return (
    <>
      <ScreenHead
        title="Findings"
        summary={(['stops', 'risky', 'note'] as const).map((grade) => countWords(grade, counts[grade])).join(' · ')}
      />
      <div
        className="min-h-0 flex-1 overflow-auto border-t border-rule px-4.5 py-3"
        tabIndex={0}
        role="region"
        aria-label="Findings"
      >
        {findings.length === 0 && (
          <Empty text="Nothing to mend. Every link that is planned should reach bottom: sound them on the bench." />
        )}
        <ul className="grid max-w-4xl gap-2">
          {findings.slice(0, 200).map((finding) => (
            <li key={finding.key} className="grid grid-cols-[6rem_1fr] items-start gap-3">
              <Link
                to={`/shows/${showId}/${whereOf(show, finding)}`}
                className="link pt-2.5 text-[13px] text-mute"
                aria-label={`${rooms[finding.room]}: ${wordsOf(finding).what}`}
              >
                {rooms[finding.room]}
              </Link>
              <FindingCard finding={finding} quiet />
            </li>
          ))}
        </ul>
        {findings.length > 200 && <p className="mt-3 text-mute">and {findings.length - 200} more; mend these first.</p>}
      </div>
    </>
  );
}
