import {
  indexBy,
  indexOver,
  rowsBy,
  typeOf,
  type Device,
  type DeviceType,
  type Link,
  type Show,
} from '../show/index.ts';

/** One unit with its effective type; units of unknown type are left out. */
export interface Typed {
  readonly device: Device;
  readonly type: DeviceType;
}

export interface RigFacts {
  readonly all: readonly Typed[];
  /** The same by their ids, one each. */
  readonly units: ReadonlyMap<string, readonly Typed[]>;
  readonly byModel: ReadonlyMap<string, readonly Typed[]>;
  readonly linksTo: ReadonlyMap<string, readonly Link[]>;
  readonly linksFrom: ReadonlyMap<string, readonly Link[]>;
  readonly now: number;
}

export const unitsById = indexBy('devices', (device, show) => {
  const type = typeOf(show, device);
  return type ? [[device.id, { device, type }]] : [];
});

const together = indexOver(unitsById, (item) => [['all', item]]);
const byModel = indexOver(unitsById, (item) => [[item.type.model, item]]);

export const rigFacts = (show: Show, now: number | (() => number) = 0): RigFacts => ({
  get all() {
    return together(show).get('all') ?? [];
  },
  units: unitsById(show),
  byModel: byModel(show),
  linksTo: rowsBy(show, 'links', 'targetId'),
  linksFrom: rowsBy(show, 'links', 'controllerId'),
  get now() {
    return typeof now === 'number' ? now : now();
  },
});

export const subjectsOf = (items: readonly Typed[]) =>
  items.map(({ device }) => ({ table: 'devices' as const, id: device.id }));
export const namesOf = (items: readonly Typed[]): string[] => items.map(({ device }) => device.name);
