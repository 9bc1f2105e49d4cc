import { rowsOf, type Progress, type Show } from '../show/index.ts';

export type LogLine = Progress['log'][number] & { readonly deviceId: string };

/** Everything that was done, the latest first. */
export const doneLog = (show: Show): LogLine[] =>
  rowsOf(show, 'progress')
    .flatMap(({ deviceId, log }) => log.map((line) => ({ ...line, deviceId })))
    .sort((a, b) => b.at - a.at);

/** How many steps it takes until the times that they really took say anything. */
const enough = 5;

/**
 * How much longer steps really take than their types say, by the middle of those that somebody began and ended; 1 as long
 * as there are few of them.
 */
export function paceOf(show: Show): number {
  const ratios = rowsOf(show, 'progress')
    .flatMap(({ log }) => log)
    .flatMap(({ what, tookS, usualS }) => (what === 'done' && tookS !== null && usualS ? [tookS / usualS] : []))
    .sort((a, b) => a - b);
  if (ratios.length < enough) return 1;
  return Math.min(10, Math.max(0.05, ratios[Math.floor(ratios.length / 2)] ?? 1));
}
