import {
  changeOf,
  insertRow,
  socketLabel,
  socketsOf,
  typeOf,
  updateRow,
  type Cable,
  type Change,
  type Device,
  type DeviceType,
  type Edit,
  type Interface,
  type Show,
} from '../show/index.ts';
import { mediumBetween, type SocketEnd } from './fitting-sockets.ts';
import type { CablingFacts } from './segments.ts';

interface End {
  readonly device: Device;
  readonly socket: string;
  readonly medium: 'copper' | 'wireless';
}

/**
 * Plugs two interfaces into one segment: each into a switch that the other already reaches or the first with room,
 * else straight into each other. Undefined when no socket is free.
 */
export function planPlugTogether(show: Show, facts: CablingFacts, a: Interface, b: Interface): Change | undefined {
  const [segmentA, segmentB] = [facts.segmentOf(a.id), facts.segmentOf(b.id)];
  if (segmentA !== undefined && segmentB !== undefined) return planJoinSegments(show, facts, segmentA, segmentB);
  const all = [segmentA === undefined ? a : undefined, segmentB === undefined ? b : undefined].flatMap((row) =>
    row ? [row] : [],
  );
  // a switch without a cable yet is plugged into by the other, not into itself
  const bare = all.filter((row) => typeOf(show, show.devices[row.deviceId])?.forwards);
  const [own] = all.length === 2 && bare.length === 1 ? bare : [];
  const loose = all.filter((row) => row !== own);
  // a switch or router needs one cable, whichever of its adapters is meant
  if (loose.length === 2 && typeOf(show, show.devices[a.deviceId])?.forwards && a.deviceId === b.deviceId) loose.pop();
  const ends = loose.flatMap((row) => freeEnd(show, facts, row) ?? []);
  if (ends.length < loose.length) return undefined;
  const isMeant = ({ id }: Device) =>
    all.every((row) => row === own || row.deviceId !== id) && (!own || id === own.deviceId);
  const segment = segmentA ?? segmentB ?? '';
  const few = facts.roomiestIn(segment).filter(isMeant);
  const hubs = few.some((hub) => hasRoom(show, facts, hub, ends)) ? few : facts.hubsIn(segment).filter(isMeant);
  if (hubs.length === 0) return planDirect(ends);
  const hub = hubs.find((one) => hasRoom(show, facts, one, ends));
  if (!hub || ends.length === 0) return undefined;
  const sockets = socketsFor(show, hub, facts.freeSockets(hub.id), ends);
  const edits = ends.map((end, at) => cableEdit(end, { ...end, device: hub, socket: sockets[at] ?? '' }));
  return changeOf(`Plug ${ends.map((end) => end.device.name).join(' and ')} into ${hub.name}`, edits);
}

/** A radio goes to an access point, however much room a switch has. */
const hasRoom = (show: Show, facts: CablingFacts, hub: Device, ends: readonly End[]): boolean =>
  socketsFor(show, hub, facts.freeSockets(hub.id), ends).length >= ends.length;

/** A socket of a hub for each end, of its kind: an access point takes radio at any of its own. */
function socketsFor(show: Show, hub: Device, free: readonly string[], ends: readonly End[]): string[] {
  const type = typeOf(show, hub);
  const left = [...free];
  return ends.flatMap(({ medium }) => {
    const at = left.findIndex((key) => type !== undefined && takesCable(type, key, medium));
    return at < 0 ? [] : left.splice(at, 1);
  });
}

/** Does a socket take a run of that medium? An access point takes radio at any of its own. */
export const takesCable = ({ kind, sockets }: DeviceType, key: string, medium: End['medium']): boolean => {
  const connector = sockets.find((socket) => socket.key === key)?.connector;
  if (medium === 'wireless') return connector === 'radio' || kind === 'access-point';
  return connector === 'rj45' || connector === 'sfp';
};

function planDirect([one, two]: readonly End[]): Change | undefined {
  return one?.medium === 'copper' && two?.medium === 'copper'
    ? changeOf(`Cable ${one.device.name} to ${two.device.name}`, [cableEdit(one, two)])
    : undefined;
}

/** Joins two segments by one cable between a switch of each. */
function planJoinSegments(show: Show, facts: CablingFacts, a: string, b: string): Change | undefined {
  const [[one], [two]] = [facts.hubsIn(a), facts.hubsIn(b)];
  const socketOf = (hub: Device | undefined): string | undefined => {
    const type = typeOf(show, hub);
    return hub && type && facts.freeSockets(hub.id).find((key) => takesCable(type, key, 'copper'));
  };
  const [from, to] = [socketOf(one), socketOf(two)];
  if (!one || !two || !from || !to || a === b) return undefined;
  return changeOf(`Cable ${one.name} to ${two.name}`, [
    cableEdit({ device: one, socket: from, medium: 'copper' }, { device: two, socket: to }),
  ]);
}

/** One cable by hand; the sockets are those that `freeSockets` lists. */
export function planCable(show: Show, from: SocketEnd, to: SocketEnd): Change | undefined {
  const [one, two] = [show.devices[from.deviceId], show.devices[to.deviceId]];
  if (!one || !two) return undefined;
  return changeOf(`Cable ${one.name} to ${two.name}`, [
    cableEdit(
      { device: one, socket: from.socket, medium: mediumBetween(show, from, to) },
      { device: two, socket: to.socket },
    ),
  ]);
}

/** Moves one end of a cable to another socket, of the same unit or of another; its length stays what it is. */
export function planMoveCable(show: Show, cable: Cable, end: 'from' | 'to', to: SocketEnd): Change | undefined {
  const unit = show.devices[to.deviceId];
  if (!unit) return undefined;
  const [own, far] =
    end === 'from'
      ? [
          { fromDevice: to.deviceId, fromSocket: to.socket },
          { deviceId: cable.toDevice, socket: cable.toSocket },
        ]
      : [
          { toDevice: to.deviceId, toSocket: to.socket },
          { deviceId: cable.fromDevice, socket: cable.fromSocket },
        ];
  const label = socketLabel(show, to.deviceId, to.socket);
  const medium = cable.medium === 'fibre' ? cable.medium : mediumBetween(show, to, far);
  return changeOf(`Move the cable of ${show.devices[far.deviceId]?.name ?? 'a unit'} to ${unit.name} ${label}`, [
    updateRow('cables', cable, { ...own, medium }),
  ]);
}

/** A free socket that leads to the adapter in the unit's variant: one for a cable before a radio. */
function freeEnd(show: Show, facts: CablingFacts, its: Interface): End | undefined {
  const device = show.devices[its.deviceId];
  const type = typeOf(show, device);
  if (!device || !type) return undefined;
  const free = new Set(facts.freeSockets(device.id));
  const own = socketsOf(type, device.variant).filter(
    ({ key, adapter }) => free.has(key) && (type.forwards || adapter === its.adapter),
  );
  for (const medium of ['copper', 'wireless'] as const) {
    const socket = own.find(({ key }) => takesCable(type, key, medium));
    if (socket) return { device, socket: socket.key, medium };
  }
  return undefined;
}

function cableEdit(from: Omit<End, 'medium'> & Pick<Cable, 'medium'>, to: Pick<End, 'device' | 'socket'>): Edit {
  const id = `c-${from.device.id.slice(-16)}-${from.socket.slice(-16)}`;
  return insertRow('cables', {
    id: id.replace(/-+/g, '-').slice(0, 40),
    fromDevice: from.device.id,
    fromSocket: from.socket,
    toDevice: to.device.id,
    toSocket: to.socket,
    medium: from.medium,
    grade: null,
    lengthM: null,
    delayMs: null,
    stage: 'both',
  });
}
