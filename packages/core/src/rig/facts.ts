import { groupBy, rowsBy, rowsOf, typeOf, type Device, type DeviceType, type Link, type Show } from '../show/index.ts';

/** One unit with its effective type; units of unknown type are left out. */
export interface Typed {
  readonly device: Device;
  readonly type: DeviceType;
}

export interface RigFacts {
  readonly all: readonly Typed[];
  readonly byModel: ReadonlyMap<string, readonly Typed[]>;
  readonly linksTo: ReadonlyMap<string, readonly Link[]>;
  readonly linksFrom: ReadonlyMap<string, readonly Link[]>;
  readonly now: number;
}

export function rigFacts(show: Show, now = 0): RigFacts {
  const all = rowsOf(show, 'devices').flatMap((device): Typed[] => {
    const type = typeOf(show, device);
    return type ? [{ device, type }] : [];
  });
  return {
    all,
    byModel: groupBy(all, ({ type }) => type.model),
    linksTo: rowsBy(show, 'links', 'targetId'),
    linksFrom: rowsBy(show, 'links', 'controllerId'),
    now,
  };
}

export const subjectsOf = (items: readonly Typed[]) =>
  items.map(({ device }) => ({ table: 'devices' as const, id: device.id }));
export const namesOf = (items: readonly Typed[]): string[] => items.map(({ device }) => device.name);
