import type { AddressingFacts, Planned } from '../addressing/index.ts';
import { gathered, memo, typeOf, type DeviceType, type Show } from '../show/index.ts';
import { takesCable } from './plan-cables.ts';
import type { CablingFacts } from './segments.ts';

/** A kind of socket that an adapter waits for. */
export type Joint = 'copper' | 'wireless';

/** Who is where, and who is nowhere: what is planned against what cables join. */
export interface SegmentMembers {
  /** How many addresses of each network are in a segment. */
  readonly networksIn: (segment: string) => ReadonlyMap<string, number>;
  /** Does anything in it have an address? */
  readonly isTalking: (segment: string) => boolean;
  /** A managed switch is part of it, which may part its networks. */
  readonly isManaged: (segment: string) => boolean;
  /** Adapters with an address and no cable. */
  readonly waiting: (joint: Joint) => readonly Planned[];
  /** Free sockets of all switches. */
  readonly free: (joint: Joint) => number;
  readonly hasHubs: () => boolean;
}

export function segmentMembers(show: Show, cabling: CablingFacts, { byId }: AddressingFacts): SegmentMembers {
  const bySegment = gathered(show, 'addresses', ({ id }): [string, string][] => {
    const [item] = byId.get(id) ?? [];
    const segment = item && cabling.segmentOf(item.interface.id);
    return item && segment !== undefined ? [[segment, item.network.id]] : [];
  });
  const managed = gathered(show, 'devices', (device): [string, true][] => {
    const segment = typeOf(show, device)?.managed ? cabling.segmentOfHub(device.id) : undefined;
    return segment === undefined ? [] : [[segment, true]];
  });
  const loose = gathered(show, 'addresses', ({ id }): [Joint, Planned][] => {
    const [item] = byId.get(id) ?? [];
    if (!item || item.type.forwards || cabling.plugOf(item.interface.id)) return [];
    const joint = jointOf(item.type, item.interface.adapter);
    return joint ? [[joint, item]] : [];
  });
  const free = gathered(show, 'devices', (device): [string, number][] => {
    const type = typeOf(show, device);
    if (!type?.forwards) return [];
    const sockets = cabling.freeSockets(device.id);
    const joints: readonly Joint[] = ['copper', 'wireless'];
    return [
      ['hubs', 1],
      ...joints.map((joint): [string, number] => [joint, sockets.filter((key) => isFor(type, key, joint)).length]),
    ];
  });
  return {
    networksIn: memo((segment) => {
      const counts = new Map<string, number>();
      for (const id of bySegment.get(segment) ?? []) counts.set(id, (counts.get(id) ?? 0) + 1);
      return new Map([...counts].sort(([a], [b]) => (a < b ? -1 : 1)));
    }),
    isTalking: memo((segment) => bySegment.get(segment) !== undefined),
    isManaged: (segment) => managed.get(segment) !== undefined,
    waiting: (joint) => [...new Map((loose.get(joint) ?? []).map((item) => [item.interface.id, item])).values()],
    free: (joint) => (free.get(joint) ?? []).reduce((sum, count) => sum + count, 0),
    hasHubs: () => free.get('hubs') !== undefined,
  };
}

/** A cable before a radio; undefined where an adapter has no socket for either. */
function jointOf({ sockets }: DeviceType, adapter: string): Joint | undefined {
  const own = sockets.filter((socket) => socket.adapter === adapter);
  if (own.some(({ connector }) => connector === 'rj45' || connector === 'sfp')) return 'copper';
  return own.some(({ connector }) => connector === 'radio') ? 'wireless' : undefined;
}

/** What an access point has is meant for radio, though a cable fits too. */
const isFor = (type: DeviceType, key: string, joint: Joint): boolean =>
  joint === 'wireless'
    ? takesCable(type, key, 'wireless')
    : type.kind !== 'access-point' && takesCable(type, key, 'copper');
