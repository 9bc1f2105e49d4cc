import {
  indexBy,
  lazily,
  memo,
  once,
  rowsBy,
  socketOf,
  standingOf,
  socketLabel,
  typeOf,
  type Cable,
  type Device,
  type DeviceType,
  type Interface,
  type Show,
  gathered,
} from '../show/index.ts';

import { isLinking, isTooLong } from './run-length.ts';
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
  /** Switches by their free sockets in a segment, or of the whole show for the empty text: that with most first. */
  readonly hubsIn: (segment: string) => readonly Device[];
  /** The first few of them: mostly one of those will do, however many there are. */
  readonly roomiestIn: (segment: string) => readonly Device[];
}

/** One way over a cable on which a link comes up, as its first node sees it. */
interface Step {
  readonly from: string;
  readonly to: string;
  readonly cableId: string;
}

/** The ways that lead away from each node. */
const stepsFrom = indexBy('cables', (cable, show): [string, Step][] => {
  if (!isLinking(show, cable)) return [];
  const [a, b] = endNodes(show, cable);
  if (!a || !b) return [];
  return [
    [a, { from: a, to: b, cableId: cable.id }],
    [b, { from: b, to: a, cableId: cable.id }],
  ];
});

/** Cables on which no link comes up, by the nodes at which they end. */
const tooLongCables = indexBy('cables', (cable, show): [string, Cable][] =>
  isTooLong(show, cable) ? endNodes(show, cable).flatMap((node) => (node === undefined ? [] : [[node, cable]])) : [],
);

const hubNodes = indexBy('devices', ({ id }, show) =>
  typeOfDevice(show, id)?.forwards ? [[hubNode(show, id), id]] : [],
);

/** Switches, and whatever else passes frames on. */
const forwarding = indexBy('devices', (device, show) => (typeOf(show, device)?.forwards ? [['all', device]] : []));

const endNodes = (show: Show, { fromDevice, fromSocket, toDevice, toSocket }: Cable) => [
  nodeOf(show, fromDevice, fromSocket),
  nodeOf(show, toDevice, toSocket),
];

/**
 * The graph of bridges and adapters: a switch is one node, each adapter of anything else is one; cables join them.
 * A segment is a connected part of it. Runs that are `lost` join nothing.
 */
export function cablingFacts(show: Show, lost: ReadonlySet<string> = noRuns): CablingFacts {
  const { placeOf, stepsAt } = forestOf(show, lost);
  const nodeOfInterface = (id: string) => {
    const its = show.interfaces[id];
    return its ? adapterNode(its) : '';
  };
  const freeSockets = memo((deviceId) => {
    const [from, to] = [
      rowsBy(show, 'cables', 'fromDevice').get(deviceId),
      rowsBy(show, 'cables', 'toDevice').get(deviceId),
    ];
    const used = new Set([
      ...(from ?? []).map(({ fromSocket }) => fromSocket),
      ...(to ?? []).map(({ toSocket }) => toSocket),
    ]);
    return (typeOfDevice(show, deviceId)?.sockets ?? []).map(({ key }) => key).filter((key) => !used.has(key));
  });
  const hubs = once(() =>
    (forwarding(show).get('all') ?? [])
      .filter(({ id }) => freeSockets(id).length > 0)
      .sort((a, b) => freeSockets(b.id).length - freeSockets(a.id).length || (a.id < b.id ? -1 : 1)),
  );
  const hubsIn = memo((segment) => hubs().filter(({ id }) => segment === '' || segmentOfHub(id) === segment));
  const segmentOfHub = memo((id) => placeOf(hubNode(show, id))?.root);
  const routes = memo((nodes) => {
    const [from = '', to = ''] = nodes.split('\n');
    return routeBetween(placeOf, (id) => show.cables[id], from, to);
  });
  // a standing show has them built with everything else
  const domains = lazily(() => broadcastDomains(show, lost));
  if (standingOf(show)) domains();
  return {
    segmentOf: memo((id) => placeOf(nodeOfInterface(id))?.root),
    segmentOfHub,
    domains,
    plugOf: memo((id) => {
      const [first] = stepsAt(nodeOfInterface(id));
      return plugOf(show, show.interfaces[id], show.cables[first?.cableId ?? '']);
    }),
    tooLongAt: (id) => tooLongCables(show).get(nodeOfInterface(id))?.at(-1),
    route: (from, to) => routes(`${nodeOfInterface(from)}\n${nodeOfInterface(to)}`),
    freeSockets,
    hubsIn,
    roomiestIn: memo((segment) => hubsIn(segment).slice(0, 3)),
  };
}

const noRuns: ReadonlySet<string> = new Set();

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

/** A node's place in the tree of its segment: the cable that leads up, and how far it is from the root. */
interface Place {
  readonly root: string;
  readonly depth: number;
  readonly up: Step | undefined;
}

interface Forest {
  readonly placeOf: (node: string) => Place | undefined;
  /** The ways away from a node, in the order of their cables. */
  readonly stepsAt: (node: string) => readonly Step[];
}

/**
 * One tree a segment, breadth first from its first switch: the ways that remain when loops are cut, as spanning tree
 * does (IEEE 802.1D). Nodes in reach of one another share a root. What hangs on one cable is put at the end of it last:
 * no way leads through it, and plugging it in or out moves nothing else.
 */
function forestOf(show: Show, lost: ReadonlySet<string>): Forest {
  const stepsAt = memo((node) =>
    (stepsFrom(show).get(node) ?? [])
      .filter(({ cableId }) => !lost.has(cableId))
      .sort((one, two) => (one.cableId < two.cableId ? -1 : 1)),
  );
  const isHub = (node: string) => hubNodes(show).has(node);
  const isLeaf = (node: string) => !isHub(node) && stepsAt(node).length === 1;
  const inner = gathered(show, 'cables', (cable): [string, readonly string[]][] => {
    const [a, b] = endNodes(show, cable);
    return lost.has(cable.id) || !a || !b || !isLinking(show, cable) || isLeaf(a) || isLeaf(b) ? [] : [['all', [a, b]]];
  });
  const innerSteps = memo((node) => stepsAt(node).filter(({ to }) => !isLeaf(to)));
  const trees = once(() => {
    const nodes = [...new Set((inner.get('all') ?? []).flat())];
    return treesOf(nodes, innerSteps, isHub);
  }, Object.is);
  const innerPlace = memo((node) => trees().get(node));
  const placeOf = memo((node): Place | undefined => {
    const [step] = stepsAt(node);
    if (!step) return undefined;
    if (!isLeaf(node)) return innerPlace(node) ?? { root: node, depth: 0, up: undefined };
    // two that only have each other
    if (isLeaf(step.to))
      return node < step.to
        ? { root: node, depth: 0, up: undefined }
        : { root: step.to, depth: 1, up: { ...step, from: step.to, to: node } };
    const above = innerPlace(step.to) ?? { root: step.to, depth: 0 };
    return { root: above.root, depth: above.depth + 1, up: { ...step, from: step.to, to: node } };
  });
  return { placeOf, stepsAt };
}

function treesOf(
  nodes: readonly string[],
  stepsAt: (node: string) => readonly Step[],
  isHub: (node: string) => boolean,
): Map<string, Place> {
  const places = new Map<string, Place>();
  const roots = nodes.toSorted((a, b) => Number(isHub(b)) - Number(isHub(a)) || (a < b ? -1 : 1));
  for (const root of roots) {
    if (places.has(root)) continue;
    places.set(root, { root, depth: 0, up: undefined });
    const open = [root];
    for (const node of open) {
      const depth = (places.get(node)?.depth ?? 0) + 1;
      for (const step of stepsAt(node)) {
        if (places.has(step.to)) continue;
        places.set(step.to, { root, depth, up: step });
        open.push(step.to);
      }
    }
  }
  return places;
}

/** The cables between two nodes along their tree: both climb until they meet. */
function routeBetween(
  placeOf: (node: string) => Place | undefined,
  cableOf: (id: string) => Cable | undefined,
  from: string,
  to: string,
): Route | undefined {
  let [near, far]: (Place | undefined)[] = [placeOf(from), placeOf(to)];
  if (!near || !far || near.root !== far.root) return from === to ? noWay : undefined;
  let [one, two] = [from, to];
  const cables: Cable[] = [];
  while (one !== two) {
    const isOne: boolean = near.depth >= far.depth;
    const up: Step | undefined = (isOne ? near : far).up;
    const above: Place | undefined = up && placeOf(up.from);
    const cable = up && cableOf(up.cableId);
    if (!above || !cable) return undefined;
    cables.push(cable);
    if (isOne) [one, near] = [up.from, above];
    else [two, far] = [up.from, above];
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
