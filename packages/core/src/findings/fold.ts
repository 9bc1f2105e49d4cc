import type { Finding } from './finding.ts';

/**
 * One cause, one finding: what follows from another finding is told there, by the names of what it stops. A finding
 * whose cause was not found stands for itself.
 */
export function fold(findings: readonly Finding[], nameOf: (finding: Finding) => string): Finding[] {
  const keys = new Set(findings.map(({ key }) => key));
  const stopped = new Map<string, string[]>();
  for (const finding of findings)
    if (finding.cause !== undefined && keys.has(finding.cause))
      stopped.set(finding.cause, [...(stopped.get(finding.cause) ?? []), nameOf(finding)]);
  return findings
    .filter(({ cause }) => cause === undefined || !keys.has(cause))
    .map((finding) => {
      const names = stopped.get(finding.key);
      return names ? { ...finding, grade: 'stops', stoppedLinks: names } : finding;
    });
}
