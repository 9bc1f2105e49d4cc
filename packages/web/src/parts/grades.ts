import type { findings } from '@deep-patch/core';
import type { MarkState } from './mark.tsx';

export const gradeMarks: Readonly<Record<findings.Grade, MarkState>> = { stops: 'fail', risky: 'risky', note: 'waits' };
/** A count of findings with its word: 1 stops it, 3 stop it. */
export function countWords(grade: findings.Grade, count: number): string {
  const one = { stops: 'stops it', risky: 'risky', note: 'note' }[grade];
  const more = { stops: 'stop it', risky: 'risky', note: 'notes' }[grade];
  return `${count} ${count === 1 ? one : more}`;
}
