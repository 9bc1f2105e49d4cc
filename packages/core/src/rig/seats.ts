import { rowsBy, type DeviceType, type Show } from '../show/index.ts';
import type { RigFacts, Typed } from './facts.ts';

/** Licences of one bundle: what the show needs, what is owned, and who uses it (C37). */
export interface SeatCount {
  readonly type: DeviceType;
  readonly bundle: DeviceType['bundles'][number];
  readonly users: readonly Typed[];
  readonly needed: number;
  readonly owned: number;
}

/**
 * A seat for each unit that uses a feature of the bundle, or one for the site if any does. Where several bundles open a
 * feature, a unit counts for one of them: the first that the show owns, else the first that the type names.
 */
export const seatCounts = (show: Show, facts: RigFacts): SeatCount[] =>
  [...facts.byModel.values()].flatMap((own) => seatsAmong(show, own));

/** The same of all units of one model. */
export function seatsAmong(show: Show, own: readonly Typed[]): SeatCount[] {
  const type = own[0]?.type;
  if (!type || type.bundles.length === 0) return [];
  const licences = rowsBy(show, 'licences', 'model').get(type.model) ?? [];
  const ownedOf = (key: string) =>
    licences.filter(({ bundle }) => bundle === key).reduce((sum, licence) => sum + licence.owned, 0);
  return type.bundles.flatMap((bundle): SeatCount[] => {
    const users = own.filter((item) => bundlesOf(item, ownedOf).has(bundle.key));
    const owned = ownedOf(bundle.key);
    const needed = bundle.per === 'site' ? Math.min(1, users.length) : users.length;
    return users.length + owned > 0 ? [{ type, bundle, users, needed, owned }] : [];
  });
}

/** The licences that a unit takes for what it uses: one that opens two of its functions counts for both. */
function bundlesOf({ device, type }: Typed, ownedOf: (key: string) => number): Set<string> {
  const taken = new Set<string>();
  const used = type.features.filter(({ key, bundle }) => bundle !== null && device.features.includes(key));
  // what only one licence opens decides first
  for (const { bundle, orBundles } of [...used].sort((a, b) => a.orBundles.length - b.orBundles.length)) {
    const ways = [bundle ?? '', ...orBundles];
    if (ways.some((key) => taken.has(key))) continue;
    taken.add(ways.find((key) => ownedOf(key) > 0) ?? ways[0] ?? '');
  }
  return taken;
}
