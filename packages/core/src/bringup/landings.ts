import type { AddressingFacts } from '../addressing/index.ts';
import type { CablingFacts } from '../cabling/index.ts';
import { byName, memo, socketOf, socketsOf, typeOf, type Show } from '../show/index.ts';
import { aloneWith, segmentOf, tagOf } from './access.ts';

/** Where the computer's cable goes to be in a segment. `vlan` is that of the socket, where a switch decides. */
export interface Landing {
  readonly deviceId: string;
  readonly socket: string;
  readonly vlan: number | null;
}

export interface Landings {
  readonly of: (segment: string) => Landing | undefined;
  readonly at: (landing: Landing) => string | undefined;
  /** The segment out of which a cable is pulled for it: as long as the computer is there, whoever is behind is cut off. */
  readonly pulledFrom: (segment: string) => string | undefined;
}

/**
 * A free socket of a switch in each segment in which anything is planned: that where most of its units are plugged in. For
 * a unit without a switch the cable leads to the unit itself.
 */
export function landingsOf(show: Show, addressing: AddressingFacts, cabling: CablingFacts): Landings {
  const hubs = new Map<string, Map<string, number>>();
  const vlans = new Map<string, number | null>();
  for (const item of addressing.planned) {
    const { interface: its, network } = item;
    const tag = tagOf(cabling, item);
    const segment = segmentOf(cabling, its.deviceId, its.adapter, tag);
    const hub = cabling.plugOf(its.id)?.farDevice;
    const type = typeOf(show, hub);
    // what is tagged passes a plain switch, and the computer does not hear it there
    if (!hub || !type?.forwards || type.kind === 'router' || (!type.managed && tag !== null)) continue;
    const counts = hubs.get(segment) ?? new Map<string, number>();
    counts.set(hub.id, (counts.get(hub.id) ?? 0) + 1);
    hubs.set(segment, counts);
    if (!vlans.has(segment)) vlans.set(segment, network.vlan);
  }
  const landing = memo((segment): Landing | undefined => {
    if (segment.startsWith('alone ')) return direct(show, addressing, cabling, segment);
    const counts = hubs.get(segment);
    if (!counts) return undefined;
    const order = [...counts].sort(
      ([a, many], [b, more]) => more - many || byName(show.devices[a] ?? noName, show.devices[b] ?? noName),
    );
    for (const [deviceId] of order) {
      const type = typeOf(show, show.devices[deviceId]);
      const socket = cabling.freeSockets(deviceId).find((key) => isForNetwork(show, deviceId, key));
      if (socket !== undefined) return { deviceId, socket, vlan: type?.managed ? (vlans.get(segment) ?? 1) : null };
    }
    return undefined;
  });
  const places = memo((place) => [...hubs.keys()].find((segment) => placeKey(landing(segment)) === place));
  return {
    of: landing,
    pulledFrom: memo((segment) => {
      const to = segment.startsWith('alone ') ? landing(segment) : undefined;
      if (!to || cabling.freeSockets(to.deviceId).includes(to.socket)) return undefined;
      const adapter = adapterAt(show, to);
      return adapter === undefined ? undefined : cabling.domains().domainOf(to.deviceId, adapter, null);
    }),
    at: (known) => places(placeKey(known)) ?? aloneWith(known.deviceId, adapterAt(show, known)),
  };
}

const noName = { name: '', id: '' };
const placeKey = (landing: Landing | undefined): string =>
  landing ? `${landing.deviceId} ${landing.socket} ${landing.vlan}` : '';

function isForNetwork(show: Show, deviceId: string, key: string): boolean {
  const device = show.devices[deviceId];
  const type = typeOf(show, device);
  const socket = type && device && socketOf(type, device.variant, key);
  return socket?.connector === 'rj45' && socket.role !== 'setup' && socket.role !== 'video';
}

function adapterAt(show: Show, { deviceId, socket }: Landing): string | undefined {
  const device = show.devices[deviceId];
  const type = typeOf(show, device);
  return (type && device && socketOf(type, device.variant, socket)?.adapter) ?? type?.adapters[0]?.key;
}

/** The socket for a network cable of an adapter of a unit itself, one that is free where it has several. */
function direct(show: Show, addressing: AddressingFacts, cabling: CablingFacts, segment: string): Landing | undefined {
  const [, deviceId = '', adapter = ''] = segment.split(' ');
  const device = show.devices[deviceId];
  const type = typeOf(show, device);
  const sockets = type && device ? socketsOf(type, device.variant) : [];
  // as long as it is not set it is in its usual mode, in which a socket may lead elsewhere
  const leads = (key: string) => type?.sockets.find((socket) => socket.key === key)?.adapter === adapter;
  const fitting = sockets.filter(
    ({ key, adapter: its, connector }) =>
      ((its === adapter && leads(key)) || (type?.forwards ?? false)) && connector === 'rj45',
  );
  // a router is in as many VLANs as it has addresses, and none is the one of a cable
  if (type?.kind === 'router') return undefined;
  const free = cabling.freeSockets(deviceId);
  const socket = fitting.find(({ key }) => free.includes(key)) ?? fitting[0];
  // the own address of a managed switch is in a VLAN of its own
  const vlan = type?.managed ? (addressing.byDevice.get(deviceId)?.[0]?.network.vlan ?? 1) : null;
  return socket && { deviceId, socket: socket.key, vlan };
}
