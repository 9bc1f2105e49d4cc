import type { Facts } from '../findings/index.ts';

/** A fact as text, or a dash (or other words) where there is none. */
export const some = (value: Facts[string] | undefined, otherwise = '—'): string =>
  value === '' || value === undefined ? otherwise : String(value);
