import type { Address, Device, DeviceType, Interface, LoginMethod, Service, ServiceType } from './entities.ts';
import { rowsOf, type Show } from './show.ts';

type Definitions = ReadonlyMap<string, DeviceType>;
/** Worked out once a snapshot; a snapshot never changes, so what is remembered never goes stale. */
const known = new WeakMap<Show['types'], { libraries: Show['libraries']; definitions: Definitions }>();
/** The answer before, since nearly every question is about the same snapshot. */
let last: { types: Show['types']; libraries: Show['libraries']; definitions: Definitions } | undefined;

/**
 * The definition that counts for each model (C36): that of the library with the lowest position. Within one library
 * the higher id counts, so that the answer never depends on the order of rows.
 */
export function definitionsOf(show: Show): Definitions {
  if (last?.types === show.types && last.libraries === show.libraries) return last.definitions;
  const there = known.get(show.types);
  const definitions = there?.libraries === show.libraries ? there.definitions : define(show);
  known.set(show.types, { libraries: show.libraries, definitions });
  last = { types: show.types, libraries: show.libraries, definitions };
  return definitions;
}

function define(show: Show): Definitions {
  const position = ({ libraryId }: DeviceType) => show.libraries[libraryId]?.position ?? Infinity;
  const definitions = new Map<string, DeviceType>();
  for (const type of rowsOf(show, 'types')) {
    const first = definitions.get(type.model);
    const better =
      !first || position(type) < position(first) || (position(type) === position(first) && type.id > first.id);
    if (better) definitions.set(type.model, type);
  }
  return definitions;
}

/** The effective type of a unit: its own row names the model, the first library that has it defines it. */
export function typeOf(show: Show, device: Device | undefined): DeviceType | undefined {
  const own = device && show.types[device.typeId];
  return own && (definitionsOf(show).get(own.model) ?? own);
}

/** A machine with a system of its own: its network settings, firewall and programs are those of a desktop. */
export const isComputer = (type: DeviceType | undefined): boolean =>
  type?.form === 'unit' && type.ways.some(({ way }) => way === 'system');

/** The machine that a unit's traffic leaves from: the computer of a program, else the unit itself. */
export const hostOf = (show: Show, device: Device): Device =>
  (device.runsOn !== null && typeOf(show, device)?.form === 'program' ? show.devices[device.runsOn] : undefined) ??
  device;

/** A socket as it serves in the unit's variant or mode. */
export function socketsOf(type: DeviceType, variant: string | null): DeviceType['sockets'] {
  const chosen = type.variants.find(({ key }) => key === variant);
  if (!chosen) return type.sockets;
  const other = new Map(chosen.sockets.map((socket) => [socket.key, socket]));
  return type.sockets.map((socket) => ({ ...socket, ...other.get(socket.key) }));
}

export const loginOf = (service: Service, type: ServiceType): LoginMethod => service.login ?? type.logins[0] ?? 'none';

export const serviceTypeOf = (show: Show, device: Device | undefined, key: string): ServiceType | undefined =>
  typeOf(show, device)?.services.find((service) => service.key === key);

/** Rows grouped by a text that each carries; one pass, so that lookups inside loops stay linear. */
export function groupBy<Item>(items: Iterable<Item>, keyOf: (item: Item) => string): Map<string, Item[]> {
  const groups = new Map<string, Item[]>();
  for (const item of items) {
    const key = keyOf(item);
    const group = groups.get(key);
    if (group) group.push(item);
    else groups.set(key, [item]);
  }
  return groups;
}

/** Devices in the order in which people look for them: by name, numbers inside names as numbers. */
export const byName = (a: { name: string }, b: { name: string }): number => collator.compare(a.name, b.name);
const collator = new Intl.Collator('en-GB', { numeric: true, sensitivity: 'base' });

export const devicesByName = (show: Show): Device[] => rowsOf(show, 'devices').sort(byName);

/** Adapters in the order in which their type lists them, as an operating system ranks them. */
export const byAdapter =
  (show: Show) =>
  (a: Interface, b: Interface): number =>
    adapterRank(show, a) - adapterRank(show, b);

const adapterRank = (show: Show, { deviceId, adapter }: Interface): number =>
  typeOf(show, show.devices[deviceId])?.adapters.findIndex(({ key }) => key === adapter) ?? 0;

export const interfacesOf = (show: Show, deviceId: string): Interface[] =>
  rowsOf(show, 'interfaces')
    .filter((row) => row.deviceId === deviceId)
    .sort(byAdapter(show));

export const addressesOf = (show: Show, deviceId: string): Address[] => {
  const own = new Set(interfacesOf(show, deviceId).map((row) => row.id));
  return rowsOf(show, 'addresses').filter((row) => own.has(row.interfaceId));
};

/** Is anything plugged into a socket that leads to this adapter? */
export function isCabled(show: Show, { deviceId, adapter }: Interface): boolean {
  const device = show.devices[deviceId];
  const type = typeOf(show, device);
  const leadsThere = (key: string): boolean =>
    type?.forwards === true ||
    (type !== undefined &&
      socketsOf(type, device?.variant ?? null).some((socket) => socket.key === key && socket.adapter === adapter));
  return rowsOf(show, 'cables').some(
    (cable) =>
      (cable.fromDevice === deviceId && leadsThere(cable.fromSocket)) ||
      (cable.toDevice === deviceId && leadsThere(cable.toSocket)),
  );
}
