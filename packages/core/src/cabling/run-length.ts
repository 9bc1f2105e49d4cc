import { rowsOf, type Cable, type Show } from '../show/index.ts';

/** Metres that a medium carries at 1 Gbit/s (IEEE 802.3 clause 40) and single-mode fibre at 10 (clause 52). */
const longestM: Readonly<Record<Cable['medium'], number | null>> = { copper: 100, fibre: 10_000, wireless: null };

/** How long a run of this medium may be; null where length does not decide (C46). */
export const longestRun = (medium: Cable['medium']): number | null => longestM[medium];

export function isTooLong({ medium, lengthM }: Cable): boolean {
  const most = longestM[medium];
  return most !== null && lengthM !== null && lengthM > most;
}

/** Cables on which a link comes up: one that is too long joins nothing. */
export const linkingCables = (show: Show): Cable[] => rowsOf(show, 'cables').filter((cable) => !isTooLong(cable));

/** A medium that carries so far, or null for none. */
export const mediumFor = (lengthM: number): Cable['medium'] | null =>
  lengthM <= (longestM.fibre ?? 0) ? 'fibre' : null;

/** What helps where a run is too long. */
export const runAdvice = (lengthM: number): string =>
  mediumFor(lengthM) ? 'Lay fibre, or put a switch half way.' : 'Put switches on the way.';
