import type {
  ConnectionRole,
  Device,
  DeviceKind,
  DeviceType,
  Interface,
  LoginMethod,
  Service,
  ServiceType,
} from './entities.ts';
import { memoFor } from './memo.ts';
import { indexBy, rowsBy, rowsOf, type Show } from './show.ts';
import { standingOf } from './standing/standing-show.ts';

/** The type that counts, by model and by the id of any row of that model. */
interface Definitions {
  readonly byModel: ReadonlyMap<string, DeviceType>;
  readonly byTypeId: ReadonlyMap<string, DeviceType>;
}
/** Worked out once a snapshot; a snapshot never changes, so what is remembered never goes stale. */
const remembered = new WeakMap<Show['types'], { libraries: Show['libraries']; definitions: Definitions }>();
/** The answer before, since nearly every question is about the same snapshot. */
let last: { types: Show['types']; libraries: Show['libraries']; definitions: Definitions } | undefined;

/**
 * The definition that counts for each model (C36): that of the library with the lowest position. Within one library
 * the higher id counts, so that the answer never depends on the order of rows.
 */
export const definitionsOf = (show: Show): Definitions['byModel'] => known(show).byModel;

function known(show: Show): Definitions {
  const standing = standingOf(show);
  if (standing) return standing.groundAnswer(define, () => define(show));
  if (last?.types === show.types && last.libraries === show.libraries) return last.definitions;
  const there = remembered.get(show.types);
  const definitions = there?.libraries === show.libraries ? there.definitions : define(show);
  remembered.set(show.types, { libraries: show.libraries, definitions });
  last = { types: show.types, libraries: show.libraries, definitions };
  return definitions;
}

function define(show: Show): Definitions {
  const position = ({ libraryId }: DeviceType) => show.libraries[libraryId]?.position ?? Infinity;
  const byModel = new Map<string, DeviceType>();
  const types = rowsOf(show, 'types');
  for (const type of types) {
    const first = byModel.get(type.model);
    const better =
      !first || position(type) < position(first) || (position(type) === position(first) && type.id > first.id);
    if (better) byModel.set(type.model, type);
  }
  return { byModel, byTypeId: new Map(types.map((type) => [type.id, byModel.get(type.model) ?? type])) };
}

/** The effective type of a unit: its own row names the model, the first library that has it defines it. */
export const typeOf = (show: Show, device: Device | undefined): DeviceType | undefined =>
  device && known(show).byTypeId.get(device.typeId);

/** A machine with a system of its own: its network settings, firewall and programs are those of a desktop. */
export const isComputer = (type: DeviceType | undefined): boolean =>
  type?.form === 'unit' && type.ways.some(({ way }) => way === 'system');

/** The machine that a unit's traffic leaves from: the computer of a program, else the unit itself. */
export const hostOf = (show: Show, device: Device): Device =>
  (device.runsOn !== null && typeOf(show, device)?.form === 'program' ? show.devices[device.runsOn] : undefined) ??
  device;

/** A socket as it serves in the unit's variant or mode. */
export const socketsOf = (type: DeviceType, variant: string | null): DeviceType['sockets'] =>
  (variant === null ? undefined : variantsOf(type).get(variant)) ?? type.sockets;

const variantsOf = memoFor(
  (type: DeviceType) =>
    new Map(
      type.variants.map(({ key, sockets }): [string, DeviceType['sockets']] => {
        const other = new Map(sockets.map((socket) => [socket.key, socket]));
        return [key, type.sockets.map((socket) => ({ ...socket, ...other.get(socket.key) }))];
      }),
    ),
);

/** One socket by its key; undefined where the unit has none of that name. */
export const socketOf = (
  type: DeviceType,
  variant: string | null,
  key: string,
): DeviceType['sockets'][number] | undefined => socketsBy(socketsOf(type, variant)).get(key);

/** A socket of a unit of the show, as it serves in its variant; undefined where there is no such unit or socket. */
export function socketAt(show: Show, deviceId: string, key: string): DeviceType['sockets'][number] | undefined {
  const device = show.devices[deviceId];
  const type = typeOf(show, device);
  return type && socketOf(type, device?.variant ?? null, key);
}

/** What stands at a socket of a unit; its key where nobody knows it. */
export function socketLabel(show: Show, deviceId: string, key: string): string {
  const type = typeOf(show, show.devices[deviceId]);
  return (type && socketsBy(type.sockets).get(key)?.label) ?? key;
}

const socketsBy = memoFor((sockets: DeviceType['sockets']) => new Map(sockets.map((socket) => [socket.key, socket])));

export const loginOf = (service: Service, type: ServiceType): LoginMethod => service.login ?? type.logins[0] ?? 'none';

/** Whether its ends hold a connection or a session that one of them opens; over HTTP it is always the client (RFC 9110). */
export const isConnection = ({ protocol, transport }: Pick<ServiceType, 'protocol' | 'transport'>): boolean =>
  protocol === 'midi' || (transport === 'tcp' && protocol !== 'http');

/** What a service does about its connection, where it has one; everything else waits. */
export const roleOf = ({ role }: Pick<Service, 'role'>, type: ServiceType): ConnectionRole =>
  isConnection(type) ? (role ?? type.roles?.[0] ?? 'waits') : 'waits';

/** Does it offer any method but none? */
export const asksForLogin = ({ logins }: ServiceType): boolean => logins.some((method) => method !== 'none');

export const serviceTypeOf = (show: Show, device: Device | undefined, key: string): ServiceType | undefined =>
  typeOf(show, device)?.services.find((service) => service.key === key);

/** Devices in the order in which people look for them: by name, numbers inside names as numbers. */
export const byName = (a: { name: string }, b: { name: string }): number => collator.compare(a.name, b.name);
const collator = new Intl.Collator('en-GB', { numeric: true, sensitivity: 'base' });

const byNameThenId = (a: Device, b: Device): number => byName(a, b) || (a.id < b.id ? -1 : 1);
/** The order of the snapshot before: after a change nearly everybody is where he was, and sorting that is quick. */
let orderBefore: readonly Device[] = [];

const ordered = memoFor((devices: Show['devices']): readonly Device[] => {
  const known = orderBefore.flatMap(({ id }) => devices[id] ?? []);
  const ids = new Set(known.map(({ id }) => id));
  const added = Object.values(devices).filter(({ id }) => !ids.has(id));
  return (orderBefore = [...known, ...added].sort(byNameThenId));
});

export const devicesByName = (show: Show): Device[] => ordered(show.devices).slice();

/** Adapters in the order in which their type lists them, as an operating system ranks them. */
export const byAdapter =
  (show: Show) =>
  (a: Interface, b: Interface): number =>
    adapterRank(show, a) - adapterRank(show, b);

const adapterRank = (show: Show, { deviceId, adapter }: Interface): number =>
  typeOf(show, show.devices[deviceId])?.adapters.findIndex(({ key }) => key === adapter) ?? 0;

/** Sockets of each unit into which something is plugged. */
const plugsBy = indexBy('cables', ({ fromDevice, fromSocket, toDevice, toSocket }) => [
  [fromDevice, fromSocket],
  [toDevice, toSocket],
]);

export const interfacesOf = (show: Show, deviceId: string): Interface[] =>
  [...(rowsBy(show, 'interfaces', 'deviceId').get(deviceId) ?? [])].sort(byAdapter(show));

/** Is anything plugged into a socket that leads to this adapter? */
export function isCabled(show: Show, { deviceId, adapter }: Interface): boolean {
  const device = show.devices[deviceId];
  const type = typeOf(show, device);
  const leadsThere = (key: string): boolean =>
    type?.forwards === true ||
    (type !== undefined && socketOf(type, device?.variant ?? null, key)?.adapter === adapter);
  return (plugsBy(show).get(deviceId) ?? []).some(leadsThere);
}

/** A kind of unit as it is read. */
export const kindWords = (kind: DeviceKind): string => kind.replaceAll('-', ' ');
