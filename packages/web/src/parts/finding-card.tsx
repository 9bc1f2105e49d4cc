import { wordsOf, type findings } from '@deep-patch/core';
import { useWorkspace } from '../live/workspace.tsx';
import { gradeMarks } from './grades.ts';
import { Mark } from './mark.tsx';

const edges = {
  stops: 'border-error bg-error/12',
  risky: 'border-warning bg-warning/10',
  note: 'border-info bg-info/10',
} as const;

/** What, why and the fix; where the fix could be worked out it is a button. A list of many keeps them all quiet. */
export function FindingCard({ finding, quiet = false }: { finding: findings.Finding; quiet?: boolean }) {
  const { save, saving } = useWorkspace();
  const { what, why, fix } = wordsOf(finding);
  return (
    <div className={`rounded-sm border-l-3 px-3 py-2.5 text-[13px] ${edges[finding.grade]}`}>
      <p>
        <Mark state={gradeMarks[finding.grade]} size={13} /> <b>{what}</b> {why} {fix}
      </p>
      {finding.fixes.length > 0 && (
        <div className="mt-2 flex flex-wrap gap-2">
          {finding.fixes.slice(0, 3).map(({ label, change }, at) => (
            <button
              key={label}
              type="button"
              disabled={saving}
              className={at === 0 && !quiet ? 'act-main' : 'act'}
              onClick={() => void save(change)}
            >
              {label}
            </button>
          ))}
        </div>
      )}
    </div>
  );
}
