import { rowsOf, type Show } from '../show/index.ts';

/** One name in a chain, and where it stands. */
export interface ChainName {
  readonly where: string;
  readonly name: string;
}

/** The first name that is not the one before it, and how it differs (C34). */
export interface NameBreak {
  readonly before: ChainName;
  readonly after: ChainName;
  /** All but `other` look alike on a screen and are different names to a program. */
  readonly kind: 'letters' | 'case' | 'blanks' | 'other';
}

/** Compares names along a chain; undefined where all are equal. */
export function firstNameBreak(chain: readonly ChainName[]): NameBreak | undefined {
  for (const [at, after] of chain.entries()) {
    const before = chain[at - 1];
    if (before && before.name !== after.name) return { before, after, kind: kindOf(before.name, after.name) };
  }
  return undefined;
}

function kindOf(a: string, b: string): NameBreak['kind'] {
  // ü as one letter, or as u with two points behind it (Unicode normalisation forms C and D)
  if (a.normalize('NFC') === b.normalize('NFC')) return 'letters';
  if (lower(a) === lower(b)) return 'case';
  return bare(a) === bare(b) ? 'blanks' : 'other';
}

const lower = (text: string): string => text.normalize('NFC').toLowerCase();
const bare = (text: string): string => lower(text).replace(/\s+/g, '');

/** Every name by which a unit goes: its own, then what each controller calls it, where that shows a name. */
export function namesOf(show: Show, deviceId: string): ChainName[] {
  const own = show.devices[deviceId];
  if (!own) return [];
  const called = rowsOf(show, 'links')
    .filter(({ targetId, label }) => targetId === deviceId && label !== '')
    .map(({ controllerId, label }) => ({ where: show.devices[controllerId]?.name ?? '', name: label }))
    .sort((a, b) => (a.where < b.where ? -1 : 1));
  return [{ where: 'itself', name: own.name }, ...called];
}
