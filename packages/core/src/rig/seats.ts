import { rowsOf, type DeviceType, type Show } from '../show/index.ts';
import type { RigFacts, Typed } from './facts.ts';

/** Licences of one bundle: what the show needs, what is owned, and who uses it (C37). */
export interface SeatCount {
  readonly type: DeviceType;
  readonly bundle: DeviceType['bundles'][number];
  readonly users: readonly Typed[];
  readonly needed: number;
  readonly owned: number;
}

/** A seat for each unit that uses a feature of the bundle, or one for the site if any does. */
export function seatCounts(show: Show, facts: RigFacts): SeatCount[] {
  const licences = rowsOf(show, 'licences');
  return [...facts.byModel.values()].flatMap((own) => {
    const type = own[0]?.type;
    return (type?.bundles ?? []).flatMap((bundle): SeatCount[] => {
      if (!type) return [];
      const opened = new Set(type.features.filter((feature) => feature.bundle === bundle.key).map(({ key }) => key));
      const users = own.filter(({ device }) => device.features.some((key) => opened.has(key)));
      const owned = licences
        .filter((licence) => licence.model === type.model && licence.bundle === bundle.key)
        .reduce((sum, licence) => sum + licence.owned, 0);
      const needed = bundle.per === 'site' ? Math.min(1, users.length) : users.length;
      return users.length + owned > 0 ? [{ type, bundle, users, needed, owned }] : [];
    });
  });
}
