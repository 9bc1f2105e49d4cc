import { wordsOf, type findings } from '@deep-patch/core';
import { FixButtons } from './fix-buttons.tsx';
import { gradeMarks } from './grades.ts';
import { Mark } from './mark.tsx';

const edges = {
  stops: 'border-error bg-error/12',
  risky: 'border-warning bg-warning/10',
  note: 'border-info bg-info/10',
} as const;

/** What, why and the fix; where the fix could be worked out it is a button. A list of many keeps them all quiet. */
export function FindingCard({ finding, quiet = false }: { finding: findings.Finding; quiet?: boolean }) {
  const { what, why, fix } = wordsOf(finding);
  return (
    <div className={`rounded-sm border-l-3 px-3 py-2.5 text-[13px] ${edges[finding.grade]}`}>
      <p>
        <Mark state={gradeMarks[finding.grade]} size={13} /> <b>{what}</b> {why} {fix}
      </p>
      <FixButtons fixes={finding.fixes.slice(0, 3)} urgent={!quiet} />
    </div>
  );
}
