import {
  changeOf,
  insertRow,
  typeOf,
  type Change,
  type Device,
  type DeviceType,
  type Edit,
  type Interface,
  type Show,
} from '../show/index.ts';
import type { CablingFacts } from './segments.ts';

interface End {
  readonly device: Device;
  readonly socket: string;
}

/**
 * Plugs two interfaces into one segment: each into a switch that the other already reaches or the first with room,
 * else straight into each other. Undefined when no socket is free.
 */
export function planPlugTogether(show: Show, facts: CablingFacts, a: Interface, b: Interface): Change | undefined {
  const [segmentA, segmentB] = [facts.segmentOf(a.id), facts.segmentOf(b.id)];
  if (segmentA !== undefined && segmentB !== undefined) return planJoinSegments(facts, segmentA, segmentB);
  const hub = facts.roomiestHub(segmentA ?? segmentB ?? '');
  const loose = [segmentA === undefined ? a : undefined, segmentB === undefined ? b : undefined].flatMap((row) =>
    row ? (freeEnd(show, facts, row) ?? []) : [],
  );
  if (!hub) return planDirect(loose);
  const sockets = facts.freeSockets(hub.id);
  if (loose.length === 0 || sockets.length < loose.length) return undefined;
  const edits = loose.map((end, at) => cableEdit(end, { device: hub, socket: sockets[at] ?? '' }));
  return changeOf(`Plug ${loose.map((end) => end.device.name).join(' and ')} into ${hub.name}`, edits);
}

function planDirect([one, two]: readonly End[]): Change | undefined {
  return one && two && changeOf(`Cable ${one.device.name} to ${two.device.name}`, [cableEdit(one, two)]);
}

/** Joins two segments by one cable between a switch of each. */
function planJoinSegments(facts: CablingFacts, a: string, b: string): Change | undefined {
  const [one, two] = [facts.roomiestHub(a), facts.roomiestHub(b)];
  const [from, to] = [one && facts.freeSockets(one.id)[0], two && facts.freeSockets(two.id)[0]];
  if (!one || !two || !from || !to || a === b) return undefined;
  return changeOf(`Cable ${one.name} to ${two.name}`, [
    cableEdit({ device: one, socket: from }, { device: two, socket: to }),
  ]);
}

/** One cable by hand; the sockets are those that `freeSockets` lists. */
export function planCable(
  show: Show,
  from: { deviceId: string; socket: string },
  to: { deviceId: string; socket: string },
): Change | undefined {
  const [one, two] = [show.devices[from.deviceId], show.devices[to.deviceId]];
  if (!one || !two) return undefined;
  return changeOf(`Cable ${one.name} to ${two.name}`, [
    cableEdit({ device: one, socket: from.socket }, { device: two, socket: to.socket }),
  ]);
}

function freeEnd(show: Show, facts: CablingFacts, its: Interface): End | undefined {
  const device = show.devices[its.deviceId];
  const type = typeOf(show, device);
  const free = device && type && facts.freeSockets(device.id).find((key) => leadsTo(type, key, its.adapter));
  return device && free ? { device, socket: free } : undefined;
}

const leadsTo = (type: DeviceType, key: string, adapter: string): boolean =>
  type.forwards || type.sockets.some((socket) => socket.key === key && socket.adapter === adapter);

function cableEdit(from: End, to: End): Edit {
  const id = `c-${from.device.id.slice(-16)}-${from.socket.slice(-16)}`;
  return insertRow('cables', {
    id: id.replace(/-+/g, '-').slice(0, 40),
    fromDevice: from.device.id,
    fromSocket: from.socket,
    toDevice: to.device.id,
    toSocket: to.socket,
    medium: 'copper',
    lengthM: null,
    delayMs: null,
  });
}
