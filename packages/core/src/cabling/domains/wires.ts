import { indexBy, indexOver, socketOf, typeOf, type Device, type DeviceType, type Show } from '../../show/index.ts';
import { isLinking } from '../run-length.ts';

/**
 * One plug of a cable on which a link comes up. `node` is what frames get into there: a switch as a whole, one adapter
 * of anything else, or nothing, where the socket serves no network in the unit's variant.
 */
export interface Plugged {
  readonly cableId: string;
  readonly deviceId: string;
  /** What somebody set at its sockets. */
  readonly socketVlans: Device['socketVlans'];
  readonly type: DeviceType;
  readonly socket: string;
  readonly adapter: string | null;
  readonly node: string | undefined;
}

export interface Wire {
  readonly a: Plugged;
  readonly b: Plugged;
}

/** By its cable, every one that joins two sockets that are there. Whatever else is written of a cable or a unit is not in it. */
export const wiresById = indexBy('cables', (cable, show): [string, Wire][] => {
  if (!isLinking(show, cable)) return [];
  const a = pluggedAt(show, cable.id, cable.fromDevice, cable.fromSocket);
  const b = pluggedAt(show, cable.id, cable.toDevice, cable.toSocket);
  return a && b ? [[cable.id, { a, b }]] : [];
});

/** Wires under keys of theirs. */
const wiresBy = (keysOf: (wire: Wire) => readonly string[]) =>
  indexOver(wiresById, (wire) => keysOf(wire).map((key): [string, Wire] => [key, wire]));

export const wiresAt = wiresBy(({ a, b }) => [...new Set([a, b].flatMap(({ node }) => node ?? []))]);
export const wiresAtSockets = wiresBy(({ a, b }) => [a, b].map(({ deviceId, socket }) => `${deviceId} ${socket}`));
/** `managed`: between two managed switches; `plain`: between two nodes that are none. */
export const wiresBetween = wiresBy(({ a, b }) => {
  if (isManaged(a) && isManaged(b)) return ['managed'];
  return isManaged(a) || isManaged(b) || a.node === undefined || b.node === undefined ? [] : ['plain'];
});
const all = wiresBy(() => ['all']);

/** All of them, in the order of their cables: what follows from them never depends on the order of rows. */
export const wiresOf = (show: Show): readonly Wire[] => inOrder(all(show).get('all') ?? []);

/** Those at whose ends something else is plugged in too: only these can be part of a circle. */
export const innerWires = (show: Show): readonly Wire[] => inOrder(inner(show).get('all') ?? []);

const inner = indexBy('cables', ({ id }, show): [string, Wire][] =>
  (wiresById(show).get(id) ?? [])
    .filter(({ a, b }) => [a, b].every(({ node }) => (wiresAt(show).get(node ?? '') ?? []).length > 1))
    .map((wire) => ['all', wire]),
);

const inOrder = (wires: readonly Wire[]): readonly Wire[] =>
  wires.toSorted(({ a: one }, { a: two }) => (one.cableId < two.cableId ? -1 : 1));

export const isManaged = ({ type }: Plugged): boolean => type.forwards && type.managed;

export const without = (lost: ReadonlySet<string>, wires: readonly Wire[] | undefined = []): readonly Wire[] =>
  lost.size === 0 ? wires : wires.filter(({ a }) => !lost.has(a.cableId));

function pluggedAt(show: Show, cableId: string, deviceId: string, key: string): Plugged | undefined {
  const device = show.devices[deviceId];
  const type = typeOf(show, device);
  const socket = type && socketOf(type, device?.variant ?? null, key);
  if (!device || !type || !socket) return undefined;
  const adapter = type.forwards ? null : socket.adapter;
  const node = type.forwards ? deviceId : adapter === null ? undefined : `${deviceId}/${adapter}`;
  return { cableId, deviceId, socketVlans: device.socketVlans, type, socket: key, adapter, node };
}
