import {
  groupBy,
  memo,
  once,
  rowsOf,
  socketOf,
  socketLabel,
  typeOf,
  type Cable,
  type Device,
  type DeviceType,
  type Interface,
  type Show,
} from '../show/index.ts';

import { isTooLong, linkingCables } from './run-length.ts';
import { broadcastDomains, type BroadcastDomains } from './domains/broadcast-domains.ts';

/** Where an interface is plugged in: its own socket, the cable and the far end. */
export interface Plug {
  readonly cable: Cable;
  readonly socket: string;
  readonly farDevice: Device;
  readonly farSocket: string;
}

export interface Route {
  readonly hops: number;
  readonly lengthM: number;
  readonly wireless: boolean;
  /** One way, as far as it is written down; null where a wireless hop has no delay of its own. */
  readonly delayMs: number | null;
}

export interface CablingFacts {
  /** Interfaces that cables and switches join carry one text; an unplugged interface has none. */
  readonly segmentOf: (interfaceId: string) => string | undefined;
  /** The segment of a switch, which may have no adapter of its own. */
  readonly segmentOfHub: (deviceId: string) => string | undefined;
  /** Who hears whose broadcasts, by VLAN and tag. */
  readonly domains: () => BroadcastDomains;
  readonly plugOf: (interfaceId: string) => Plug | undefined;
  /** A cable at an interface that is too long for a link to come up. */
  readonly tooLongAt: (interfaceId: string) => Cable | undefined;
  /** The cables between two interfaces once loops are cut; undefined when none leads there. */
  readonly route: (fromInterface: string, toInterface: string) => Route | undefined;
  /** Keys of the sockets of a device that have no cable. */
  readonly freeSockets: (deviceId: string) => readonly string[];
  /** The switch with most free sockets in a segment, or of the whole show for the empty text. */
  readonly hubsIn: (segment: string) => readonly Device[];
}

/**
 * The graph of bridges and adapters: a switch is one node, each adapter of anything else is one; cables join them.
 * A segment is a connected part of it. Runs that are `lost` join nothing.
 */
export function cablingFacts(show: Show, lost: ReadonlySet<string> = new Set()): CablingFacts {
  const cables = rowsOf(show, 'cables');
  const linking = linkingCables(show).filter(({ id }) => !lost.has(id));
  const edges = linking.flatMap((cable) => {
    const [a, b] = [nodeOf(show, cable.fromDevice, cable.fromSocket), nodeOf(show, cable.toDevice, cable.toSocket)];
    return a && b ? [{ cable, a, b }] : [];
  });
  const near = groupBy(
    edges.flatMap(({ cable, a, b }) => [
      { from: a, to: b, cable },
      { from: b, to: a, cable },
    ]),
    (step) => step.from,
  );
  const hubNodes = new Set(
    rowsOf(show, 'devices').flatMap(({ id }) => (typeOfDevice(show, id)?.forwards ? hubNode(show, id) : [])),
  );
  const places = treesOf(near, (node) => hubNodes.has(node));
  const nodeOfInterface = (id: string) => {
    const its = show.interfaces[id];
    return its ? adapterNode(its) : '';
  };
  const used = once(
    () =>
      new Set(
        cables.flatMap((cable) => [`${cable.fromDevice}/${cable.fromSocket}`, `${cable.toDevice}/${cable.toSocket}`]),
      ),
  );
  const tooLong = once(
    () =>
      new Map(
        cables
          .filter((cable) => isTooLong(show, cable))
          .flatMap((cable) =>
            [nodeOf(show, cable.fromDevice, cable.fromSocket), nodeOf(show, cable.toDevice, cable.toSocket)].flatMap(
              (node): [string, Cable][] => (node === undefined ? [] : [[node, cable]]),
            ),
          ),
      ),
  );
  const freeSockets = memo((deviceId) =>
    (typeOfDevice(show, deviceId)?.sockets ?? [])
      .map(({ key }) => key)
      .filter((key) => !used().has(`${deviceId}/${key}`)),
  );
  const hubs = once(() =>
    rowsOf(show, 'devices')
      .filter((device) => typeOfDevice(show, device.id)?.forwards && freeSockets(device.id).length > 0)
      .sort((a, b) => freeSockets(b.id).length - freeSockets(a.id).length || (a.id < b.id ? -1 : 1)),
  );
  const segmentOfHub = (id: string) => places.get(hubNode(show, id))?.root;
  return {
    segmentOf: (id) => places.get(nodeOfInterface(id))?.root,
    segmentOfHub,
    domains: once(() => broadcastDomains(show, lost)),
    plugOf: memo((id) => plugOf(show, show.interfaces[id], near.get(nodeOfInterface(id))?.[0]?.cable)),
    tooLongAt: (id) => tooLong().get(nodeOfInterface(id)),
    route: (from, to) => routeBetween(places, nodeOfInterface(from), nodeOfInterface(to)),
    freeSockets,
    hubsIn: memo((segment) => hubs().filter(({ id }) => segment === '' || segmentOfHub(id) === segment)),
  };
}

const adapterNode = (row: Interface): string => `${row.deviceId}/${row.adapter}`;

function nodeOf(show: Show, deviceId: string, socketKey: string): string | undefined {
  const device = show.devices[deviceId];
  const type = typeOf(show, device);
  const socket = type && socketOf(type, device?.variant ?? null, socketKey);
  if (!type || !socket) return undefined;
  if (type.forwards) return hubNode(show, deviceId);
  // a socket for pictures or for setting up leads to no adapter and joins nothing
  return socket.adapter === null ? undefined : `${deviceId}/${socket.adapter}`;
}

/** A switch's own adapter sits on its bridge: it is reached through any of its sockets. */
function hubNode(show: Show, deviceId: string): string {
  const adapter = typeOfDevice(show, deviceId)?.adapters[0]?.key;
  return adapter ? `${deviceId}/${adapter}` : deviceId;
}

interface Step {
  readonly from: string;
  readonly to: string;
  readonly cable: Cable;
}

/** A node's place in the tree of its segment: the cable that leads up, and how far it is from the root. */
interface Place {
  readonly root: string;
  readonly depth: number;
  readonly up: Step | undefined;
}

/**
 * One tree a segment, breadth first from its first switch: the ways that remain when loops are cut, as spanning tree
 * does (IEEE 802.1D). Nodes in reach of one another share a root.
 */
function treesOf(near: ReadonlyMap<string, readonly Step[]>, isHub: (node: string) => boolean): Map<string, Place> {
  const places = new Map<string, Place>();
  const roots = [...near.keys()].sort((a, b) => Number(isHub(b)) - Number(isHub(a)) || (a < b ? -1 : 1));
  for (const root of roots) {
    if (places.has(root)) continue;
    places.set(root, { root, depth: 0, up: undefined });
    const open = [root];
    for (const node of open) {
      const depth = (places.get(node)?.depth ?? 0) + 1;
      for (const step of near.get(node) ?? []) {
        if (places.has(step.to)) continue;
        places.set(step.to, { root, depth, up: step });
        open.push(step.to);
      }
    }
  }
  return places;
}

/** The cables between two nodes along their tree: both climb until they meet. */
function routeBetween(places: ReadonlyMap<string, Place>, from: string, to: string): Route | undefined {
  let [near, far] = [places.get(from), places.get(to)];
  if (!near || !far || near.root !== far.root) return from === to ? noWay : undefined;
  const cables: Cable[] = [];
  while (near !== far) {
    const lower: Place = near.depth >= far.depth ? near : far;
    const above: Place | undefined = lower.up && places.get(lower.up.from);
    if (!lower.up || !above) return undefined;
    cables.push(lower.up.cable);
    if (lower === near) near = above;
    else far = above;
  }
  return along(cables);
}

const noWay: Route = { hops: 0, lengthM: 0, wireless: false, delayMs: 0 };

function along(cables: readonly Cable[]): Route {
  let [lengthM, wireless, delayMs]: [number, boolean, number | null] = [0, false, 0];
  for (const cable of cables) {
    const isRadio = cable.medium === 'wireless';
    lengthM += cable.lengthM ?? 0;
    wireless ||= isRadio;
    delayMs = delayMs === null || (isRadio && cable.delayMs === null) ? null : delayMs + (cable.delayMs ?? 0);
  }
  return { hops: cables.length, lengthM, wireless, delayMs };
}

function plugOf(show: Show, its: Interface | undefined, cable: Cable | undefined): Plug | undefined {
  if (!its || !cable) return undefined;
  const outward = cable.fromDevice === its.deviceId;
  const [socket, farId, farSocket] = outward
    ? [cable.fromSocket, cable.toDevice, cable.toSocket]
    : [cable.toSocket, cable.fromDevice, cable.fromSocket];
  const farDevice = show.devices[farId];
  if (!farDevice) return undefined;
  return {
    cable,
    farDevice,
    socket: socketLabel(show, its.deviceId, socket),
    farSocket: socketLabel(show, farId, farSocket),
  };
}

const typeOfDevice = (show: Show, deviceId: string): DeviceType | undefined => typeOf(show, show.devices[deviceId]);
