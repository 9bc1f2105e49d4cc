import { indexBy, macOf, memo, once, typeOf, type Show } from '../../show/index.ts';
import { circlesOf, type Loop } from './circles.ts';
import { DisjointSets } from './disjoint-sets.ts';
import { shutPorts, type TreePort } from './spanning-tree.ts';
import { stretchesOf, stretchesThatJoin, vlansOf, type Stretch } from './stretches.ts';
import {
  isManaged,
  wiresAt,
  wiresAtSockets,
  wiresBetween,
  wiresById,
  without,
  type Plugged,
  type Wire,
} from './wires.ts';

/** The VLAN of a socket for which nothing else is set (IEEE 802.1Q table 9-2); it crosses trunks without a tag. */
export const nativeVlan = 1;

/** Who hears whose broadcasts, once switches are set as the plan asks for and spanning tree has cut what it can. */
export interface BroadcastDomains {
  /**
   * The domain of an adapter's frames with this VLAN tag (null for none); undefined where nothing is plugged in or the
   * tag leads nowhere.
   */
  readonly domainOf: (deviceId: string, adapter: string, tag: number | null) => string | undefined;
  /** Does the adapter take its VLANs tagged, because it sits alone on a socket that carries several? */
  readonly takesTags: (deviceId: string, adapter: string) => boolean;
  /** Does any cable lead to the adapter? */
  readonly isLit: (deviceId: string, adapter: string) => boolean;
  /** The loop that floods a domain. */
  readonly loopIn: (domain: string) => Loop | undefined;
  readonly loops: readonly Loop[];
  /** Does spanning tree keep a socket of a managed switch shut? */
  readonly isShut: (deviceId: string, socket: string) => boolean;
  /** Cables that it holds back. */
  readonly held: () => readonly string[];
  /** What a plugged socket of a managed switch does with VLANs; undefined for any other socket. */
  readonly memberOf: (deviceId: string, socket: string) => Member | undefined;
  /** VLANs that cross a run between two managed switches; undefined for any other run. */
  readonly crossing: (cableId: string) => ReadonlySet<number> | undefined;
  /** The VLAN into which a managed switch puts an adapter; null where none decides. */
  readonly vlanOf: (deviceId: string, adapter: string) => number | null;
}

const nothing: ReadonlySet<string> = new Set();

/**
 * Sockets of managed switches are set as somebody would for this plan: towards another managed switch everything,
 * tagged; else the lowest VLAN of what hangs there, or all of them tagged for a single adapter; VLAN 1 where nothing
 * is planned. Runs that are `lost` carry nothing, and everything stays set as it was with them.
 */
export function broadcastDomains(show: Show, lost: ReadonlySet<string> = nothing): BroadcastDomains {
  const planned = stretchesOf(show);
  const stretches = lost.size === 0 ? planned : stretchesOf(show, lost, planned);
  const trunks = (): readonly Wire[] => without(lost, wiresBetween(show).get('managed'));
  const joining = stretchesThatJoin(show, stretches, lost);
  const shut = once(() => shutSockets(show, trunks(), joining()));
  const isShut = memo((plug) => shut().has(plug));
  const isOpen = (end: Plugged): boolean => !isShut(plugKey(end));
  const all = once(() => new Set([nativeVlan, ...(vlansOfNetworks(show).get('all') ?? [])]));
  const core = once(() => {
    const sets = new DisjointSets();
    for (const { a, b } of trunks()) if (isOpen(a) && isOpen(b)) joinTrunk(sets, [a, b], all());
    for (const stretch of joining()) joinStretch(sets, stretch, isOpen);
    return sets;
  }, Object.is);
  const named = memo((name) => core().find(name));
  const isManagedDevice = (deviceId: string) => isManagedType(show, deviceId);
  const own = memo((deviceId) => ownVlan(show, deviceId));
  const isLit = (node: string) => without(lost, wiresAt(show).get(node)).length > 0;
  const nodeOf = (deviceId: string, adapter: string) =>
    typeOf(show, show.devices[deviceId])?.forwards ? deviceId : `${deviceId}/${adapter}`;

  /** A stretch at one socket of a switch is in the VLAN of that socket; one at several joins their VLANs. */
  const domainIn = ({ name, edges }: Stretch, vlanAt: (hub: Plugged) => number | null): string => {
    const [edge] = edges;
    if (!edge || edges.length > 1) return named(name);
    const vlan = isOpen(edge.hub) ? vlanAt(edge.hub) : null;
    return vlan === null ? name : named(inVlan(edge.hub.deviceId, vlan));
  };
  const untaggedIn = (stretch: Stretch) => domainIn(stretch, (hub) => memberAt(hub, stretch).untagged);
  const taggedIn = (stretch: Stretch, vlan: number) =>
    domainIn({ ...stretch, name: `${stretch.name} ${vlan}` }, (hub) =>
      memberAt(hub, stretch).tagged.has(vlan) ? vlan : null,
    );

  const domains = memo((key) => {
    const [deviceId = '', adapter = '', vlan = ''] = key.split('\n');
    const tag = vlan === '' ? null : Number(vlan);
    const node = nodeOf(deviceId, adapter);
    if (!isLit(node)) return undefined;
    if (isManagedDevice(deviceId)) return tag === null ? named(inVlan(deviceId, own(deviceId))) : undefined;
    const stretch = stretches.of(node);
    if (stretch.edges.length + stretch.wires.length === 0) return undefined;
    if (tag === null) return untaggedIn(stretch);
    return stretch.tagged && stretch.vlans.numbers.has(tag) ? taggedIn(stretch, tag) : undefined;
  });
  const loops = once(() =>
    stretches.withPlainWires().flatMap((stretch) =>
      circlesOf(stretch).map((loop) => {
        const tagged = stretch.edges.flatMap(({ hub }) => (isOpen(hub) ? [...memberAt(hub, stretch).tagged] : []));
        return { loop, domains: [untaggedIn(stretch), ...tagged.map((vlan) => taggedIn(stretch, vlan))] };
      }),
    ),
  );
  const loopIn = memo((domain) => loops().findLast((one) => one.domains.includes(domain))?.loop);
  const wireAt = (plug: string) => without(lost, wiresAtSockets(show).get(plug)).at(-1);
  return {
    domainOf: (deviceId, adapter, tag) => domains(`${deviceId}\n${adapter}\n${tag ?? ''}`),
    takesTags: (deviceId, adapter) => {
      const node = nodeOf(deviceId, adapter);
      return !isManagedDevice(deviceId) && isLit(node) && stretches.of(node).tagged;
    },
    isLit: (deviceId, adapter) => isLit(nodeOf(deviceId, adapter)),
    loopIn,
    get loops() {
      return loops().map(({ loop }) => loop);
    },
    crossing: (cableId) => {
      const [wire] = without(lost, wiresById(show).get(cableId));
      return wire && isManaged(wire.a) && isManaged(wire.b) ? crossingAt(wire.a, wire.b, all()) : undefined;
    },
    memberOf: (deviceId, socket) => {
      const wire = wireAt(`${deviceId} ${socket}`);
      if (!wire) return undefined;
      const isA = wire.a.deviceId === deviceId && wire.a.socket === socket;
      const [end, far] = isA ? [wire.a, wire.b] : [wire.b, wire.a];
      if (!isManaged(end)) return undefined;
      if (isManaged(far)) return trunkAt(end, all());
      return far.node === undefined ? undefined : memberAt(end, stretches.of(far.node));
    },
    held: () => [...new Set([...shut()].map((key) => key.split(' ')[0] ?? ''))],
    isShut: (deviceId, socket) => {
      const wire = wireAt(`${deviceId} ${socket}`);
      return wire !== undefined && isShut(`${wire.a.cableId} ${deviceId} ${socket}`);
    },
    vlanOf: (deviceId, adapter) => {
      const node = nodeOf(deviceId, adapter);
      if (isManagedDevice(deviceId) || !isLit(node)) return null;
      const stretch = stretches.of(node);
      const [edge] = stretch.edges;
      return edge && !stretch.tagged ? memberAt(edge.hub, stretch).untagged : null;
    },
  };
}

const vlansOfNetworks = indexBy('networks', ({ vlan }) => (vlan === null ? [] : [['all', vlan]]));

/**
 * A VLAN of a managed switch. Of all that is joined the lowest name stands for it, and these come before those of units:
 * plugging a unit in or out renames nothing else.
 */
const inVlan = (deviceId: string, vlan: number): string => `!${deviceId} ${vlan}`;

const isManagedType = (show: Show, deviceId: string): boolean => {
  const type = typeOf(show, show.devices[deviceId]);
  return type !== undefined && type.forwards && type.managed;
};
const plugKey = ({ cableId, deviceId, socket }: Plugged): string => `${cableId} ${deviceId} ${socket}`;
const accessVlan = ({ vlans }: Stretch): number =>
  Math.min(...vlans.numbers, vlans.numbers.size > 0 ? Infinity : nativeVlan);

/** A managed switch's own adapter is in the VLAN of the first network that is planned for it. */
function ownVlan(show: Show, deviceId: string): number {
  const adapters = typeOf(show, show.devices[deviceId])?.adapters ?? [];
  const first = adapters.map(({ key }) => vlansOf(show, `${deviceId}/${key}`)).find((planned) => planned !== undefined);
  return first?.first ?? nativeVlan;
}

function joinStretch(sets: DisjointSets, stretch: Stretch, isOpen: (end: Plugged) => boolean): void {
  for (const { hub } of stretch.edges) {
    if (!isOpen(hub)) continue;
    const { untagged, tagged } = memberAt(hub, stretch);
    if (untagged !== null) sets.join(stretch.name, inVlan(hub.deviceId, untagged));
    // what has a tag passes a plain switch as it is
    for (const vlan of tagged) sets.join(`${stretch.name} ${vlan}`, inVlan(hub.deviceId, vlan));
  }
}

/** What a socket of a managed switch does with VLANs: null drops what comes without a tag. */
export interface Member {
  readonly untagged: number | null;
  readonly tagged: ReadonlySet<number>;
}

const byHand = ({ socketVlans, socket }: Plugged): Member | undefined => {
  const set = socketVlans.find((one) => one.socket === socket);
  return set && { untagged: set.untagged, tagged: new Set(set.tagged) };
};

/** As somebody set it, else as the plan of what hangs there asks for. */
const memberAt = (hub: Plugged, stretch: Stretch): Member =>
  byHand(hub) ??
  (stretch.tagged
    ? { untagged: nativeVlan, tagged: new Set([...stretch.vlans.numbers].filter((vlan) => vlan !== nativeVlan)) }
    : { untagged: accessVlan(stretch), tagged: new Set() });

const trunkAt = (end: Plugged, all: ReadonlySet<number>): Member =>
  byHand(end) ?? { untagged: nativeVlan, tagged: new Set([...all].filter((vlan) => vlan !== nativeVlan)) };

/** What has no tag on a run is in the untagged VLAN of either end, though these may be two. */
function joinTrunk(sets: DisjointSets, [a, b]: readonly [Plugged, Plugged], all: ReadonlySet<number>): void {
  const [one, two] = [trunkAt(a, all), trunkAt(b, all)];
  for (const vlan of one.tagged)
    if (two.tagged.has(vlan)) sets.join(inVlan(a.deviceId, vlan), inVlan(b.deviceId, vlan));
  if (one.untagged !== null && two.untagged !== null)
    sets.join(inVlan(a.deviceId, one.untagged), inVlan(b.deviceId, two.untagged));
}

function crossingAt(a: Plugged, b: Plugged, all: ReadonlySet<number>): ReadonlySet<number> {
  const [one, two] = [trunkAt(a, all), trunkAt(b, all)];
  const both = [...one.tagged].filter((vlan) => two.tagged.has(vlan));
  return new Set(one.untagged !== null && one.untagged === two.untagged ? [...both, one.untagged] : both);
}

/** Ports of managed switches that spanning tree shuts, by cable and socket. */
function shutSockets(show: Show, trunks: readonly Wire[], joining: readonly Stretch[]): ReadonlySet<string> {
  const ports = new Map<string, TreePort>();
  const add = (end: Plugged, stretch: string) =>
    void ports.set(plugKey(end), {
      bridge: end.deviceId,
      id: bridgeIds(show).get(end.deviceId)?.[0] ?? '',
      number: end.type.sockets.findIndex(({ key }) => key === end.socket) + 1,
      stretch,
    });
  for (const { a, b } of trunks) for (const end of [a, b]) add(end, `cable ${a.cableId}`);
  for (const { name, edges } of joining) for (const { hub } of edges) add(hub, `stretch ${name}`);
  const shut = shutPorts([...ports.values()]);
  return new Set([...ports].flatMap(([key, port]) => (shut.has(port) ? [key] : [])));
}

/** What a managed switch is called in the spanning tree: its MAC address. */
const bridgeIds = indexBy('devices', (device, show) => {
  const type = typeOf(show, device);
  const adapter = type?.adapters[0]?.key ?? 'bridge';
  return type?.forwards && type.managed ? [[device.id, macOf(show, device.id, adapter, 0)]] : [];
});
