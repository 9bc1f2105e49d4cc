import { findings } from '@deep-patch/core';
import { Link } from 'react-router';
import { useBenchCount } from '../live/bench-store.ts';
import { useWorkspace } from '../live/workspace.tsx';
import { countWords, gradeMarks } from '../parts/grades.ts';
import { Mark, markColour } from '../parts/mark.tsx';
import { DoneNotice } from '../parts/notices.tsx';

/** What is wrong at a glance, and what the bench is doing. */
export function FindingsBar() {
  const { analysis, showId } = useWorkspace();
  const bench = useBenchCount();
  const counts = analysis && findings.countGrades(analysis.findings);
  return (
    <footer className="flex h-7 shrink-0 items-center gap-4 border-t border-rule bg-base-200 px-4 text-xs">
      <Link
        to={`/shows/${showId}/findings`}
        className="flex shrink-0 items-center gap-4 whitespace-nowrap hover:underline"
        title="All findings"
      >
        {counts ? (
          (['stops', 'risky', 'note'] as const).map((grade) => (
            <span
              key={grade}
              className={`flex items-center gap-1 ${grade === 'note' ? 'text-mute' : markColour(gradeMarks[grade])}`}
            >
              <Mark state={gradeMarks[grade]} size={11} /> {countWords(grade, counts[grade])}
            </span>
          ))
        ) : (
          <span className="text-mute">findings: working it out</span>
        )}
      </Link>
      <DoneNotice />
      <span className="font-mono whitespace-nowrap text-mute max-sm:hidden">
        {bench ? `bench ${bench.up} of ${bench.all} stand-ins up` : bench === null ? 'bench is starting again' : ''}
      </span>
    </footer>
  );
}
