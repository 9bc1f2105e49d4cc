import { groupBy, macOf, memo, once, rowsOf, typeOf, type Show } from '../../show/index.ts';
import { circlesOf, type Loop } from './circles.ts';
import { DisjointSets } from './disjoint-sets.ts';
import { shutPorts, type TreePort } from './spanning-tree.ts';
import { plannedVlans, wiresOf, type Plugged, type PlannedVlans, type Wire } from './wires.ts';

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
  /** What a plugged socket of a managed switch does with VLANs; undefined for any other socket. */
  readonly memberOf: (deviceId: string, socket: string) => Member | undefined;
  /** VLANs that cross a run between two managed switches; undefined for any other run. */
  readonly crossing: (cableId: string) => ReadonlySet<number> | undefined;
  /** The VLAN into which a managed switch puts an adapter; null where none decides. */
  readonly vlanOf: (deviceId: string, adapter: string) => number | null;
}

/** A stretch of network without managed switches: plain switches, chains and single adapters that cables join. */
interface Stretch {
  readonly name: string;
  readonly nodes: ReadonlySet<string>;
  readonly wires: readonly Wire[];
  /** Its ends at managed switches. */
  readonly edges: readonly { readonly hub: Plugged; readonly inner: Plugged }[];
  readonly vlans: PlannedVlans;
  /** It is one adapter or one router on one cable, and several VLANs are planned for it: it takes them tagged. */
  readonly tagged: boolean;
}

const nothing: ReadonlySet<string> = new Set();

/**
 * Sockets of managed switches are set as somebody would for this plan: towards another managed switch everything,
 * tagged; else the lowest VLAN of what hangs there, or all of them tagged for a single adapter; VLAN 1 where nothing
 * is planned. Runs that are `lost` carry nothing, and everything stays set as it was with them.
 */
export function broadcastDomains(show: Show, lost: ReadonlySet<string> = nothing): BroadcastDomains {
  const planned = wiresOf(show);
  const wires = lost.size === 0 ? planned : planned.filter(({ a }) => !lost.has(a.cable.id));
  const vlans = plannedVlans(show);
  const stretches =
    lost.size === 0 ? stretchesOf(planned, vlans) : asSet(stretchesOf(wires, vlans), stretchesOf(planned, vlans));
  const ports = treePorts(show, wires, stretches);
  const shut = shutPorts([...ports.values()]);
  const isOpen = (end: Plugged): boolean => {
    const port = ports.get(plugKey(end));
    return port === undefined || !shut.has(port);
  };
  const sets = new DisjointSets();
  const all = new Set([nativeVlan, ...rowsOf(show, 'networks').flatMap(({ vlan }) => vlan ?? [])]);
  for (const { a, b } of wires)
    if (isManaged(a) && isManaged(b) && isOpen(a) && isOpen(b)) joinTrunk(sets, [a, b], all);
  for (const stretch of stretches) joinStretch(sets, stretch, isOpen);
  const byNode = new Map(stretches.flatMap((stretch) => [...stretch.nodes].map((node) => [node, stretch] as const)));
  const lit = new Set(wires.flatMap(({ a, b }) => [a, b].flatMap(({ node }) => node ?? [])));
  const nodeOf = (deviceId: string, adapter: string) =>
    typeOf(show, show.devices[deviceId])?.forwards ? deviceId : `${deviceId}/${adapter}`;
  const isManagedDevice = (deviceId: string) => isManagedType(show, deviceId);
  const domainOf = (deviceId: string, adapter: string, tag: number | null): string | undefined => {
    const node = nodeOf(deviceId, adapter);
    if (!lit.has(node)) return undefined;
    if (isManagedDevice(deviceId))
      return tag === null ? sets.find(`${deviceId} ${ownVlan(show, vlans, deviceId)}`) : undefined;
    const stretch = byNode.get(node);
    if (!stretch) return undefined;
    if (tag === null) return sets.find(stretch.name);
    return stretch.tagged && stretch.vlans.numbers.has(tag) ? sets.find(`${stretch.name} ${tag}`) : undefined;
  };
  const loops = stretches.flatMap((stretch) =>
    circlesOf(stretch).map((loop) => ({ loop, domains: flooded(sets, stretch, isOpen) })),
  );
  const loopIn = new Map(loops.flatMap(({ loop, domains }) => domains.map((domain) => [domain, loop] as const)));
  const trunks = once(
    () =>
      new Map(
        wires.flatMap(({ a, b }): [string, ReadonlySet<number>][] =>
          isManaged(a) && isManaged(b) ? [[a.cable.id, crossingAt(a, b, all)]] : [],
        ),
      ),
  );
  const members = once(
    () =>
      new Map<string, Member>([
        ...stretches.flatMap((stretch) =>
          stretch.edges.map(({ hub }) => [`${hub.device.id} ${hub.socket}`, memberAt(hub, stretch)] as const),
        ),
        ...wires
          .flatMap(({ a, b }) => (isManaged(a) && isManaged(b) ? [a, b] : []))
          .map((end) => [`${end.device.id} ${end.socket}`, trunkAt(end, all)] as const),
      ]),
  );
  const shutSockets = once(
    () =>
      new Set(
        wires
          .flatMap(({ a, b }) => [a, b])
          .filter((end) => isManaged(end) && !isOpen(end))
          .map(({ device, socket }) => `${device.id} ${socket}`),
      ),
  );
  return {
    domainOf,
    takesTags: (deviceId, adapter) => byNode.get(nodeOf(deviceId, adapter))?.tagged ?? false,
    isLit: (deviceId, adapter) => lit.has(nodeOf(deviceId, adapter)),
    loopIn: (domain) => loopIn.get(domain),
    loops: loops.map(({ loop }) => loop),
    crossing: (cableId) => trunks().get(cableId),
    memberOf: (deviceId, socket) => members().get(`${deviceId} ${socket}`),
    isShut: (deviceId, socket) => shutSockets().has(`${deviceId} ${socket}`),
    vlanOf: (deviceId, adapter) => {
      const stretch = byNode.get(nodeOf(deviceId, adapter));
      const [edge] = stretch?.edges ?? [];
      return stretch && edge && !stretch.tagged ? memberAt(edge.hub, stretch).untagged : null;
    },
  };
}

const isManaged = ({ type }: Plugged): boolean => type.forwards && type.managed;
const isManagedType = (show: Show, deviceId: string): boolean => {
  const type = typeOf(show, show.devices[deviceId]);
  return type !== undefined && type.forwards && type.managed;
};
const plugKey = ({ cable, device, socket }: Plugged): string => `${cable.id} ${device.id} ${socket}`;
const accessVlan = ({ vlans }: Stretch): number =>
  Math.min(...vlans.numbers, vlans.numbers.size > 0 ? Infinity : nativeVlan);

/** A managed switch's own adapter is in the VLAN of the first network that is planned for it. */
function ownVlan(show: Show, vlans: ReadonlyMap<string, PlannedVlans>, deviceId: string): number {
  const adapters = typeOf(show, show.devices[deviceId])?.adapters ?? [];
  const first = adapters.map(({ key }) => vlans.get(`${deviceId}/${key}`)).find((planned) => planned !== undefined);
  return first?.first ?? nativeVlan;
}

function stretchesOf(wires: readonly Wire[], vlans: ReadonlyMap<string, PlannedVlans>): Stretch[] {
  const sets = new DisjointSets();
  const plain = wires.filter(
    ({ a, b }) => !isManaged(a) && !isManaged(b) && a.node !== undefined && b.node !== undefined,
  );
  const edges = wires.flatMap(({ a, b }) =>
    isManaged(a) === isManaged(b) ? [] : [isManaged(a) ? { hub: a, inner: b } : { hub: b, inner: a }],
  );
  for (const { a, b } of plain) sets.join(a.node ?? '', b.node ?? '');
  const nodes = new Map<string, Plugged>();
  for (const end of [...plain.flatMap(({ a, b }) => [a, b]), ...edges.map(({ inner }) => inner)])
    if (end.node !== undefined) nodes.set(end.node, end);
  const wiresBy = groupBy(plain, ({ a }) => sets.find(a.node ?? ''));
  const edgesBy = groupBy(
    edges.filter(({ inner }) => inner.node !== undefined),
    ({ inner }) => sets.find(inner.node ?? ''),
  );
  return [...groupBy(nodes.keys(), (node) => sets.find(node))].map(([name, members]) => {
    const own = { wires: wiresBy.get(name) ?? [], edges: edgesBy.get(name) ?? [] };
    const ends = members.flatMap((node) => nodes.get(node) ?? []);
    const planned = together(ends.flatMap((end) => vlansAt(vlans, end)));
    const [only] = ends;
    const isAlone = ends.length === 1 && own.edges.length === 1 && own.wires.length === 0;
    const mayTag = isAlone && only !== undefined && (!only.type.forwards || only.type.kind === 'router');
    const tagged = mayTag && planned.numbers.size + Number(planned.withoutNumber) > 1;
    return { name, nodes: new Set(members), ...own, vlans: planned, tagged };
  });
}

/** Stretches that are left of others, with their sockets at managed switches set as for those. */
function asSet(left: readonly Stretch[], whole: readonly Stretch[]): Stretch[] {
  const of = new Map(whole.flatMap((stretch) => [...stretch.nodes].map((node) => [node, stretch] as const)));
  return left.map((stretch) => {
    const [node = ''] = stretch.nodes;
    const { vlans, tagged } = of.get(node) ?? stretch;
    return { ...stretch, vlans, tagged };
  });
}

/** What is planned behind one node: of one adapter, or of all adapters of a switch. */
const vlansAt = (vlans: ReadonlyMap<string, PlannedVlans>, { type, device, adapter }: Plugged): PlannedVlans[] =>
  (type.forwards ? type.adapters.map(({ key }) => key) : [adapter]).flatMap(
    (key) => vlans.get(`${device.id}/${key}`) ?? [],
  );

const together = (all: readonly PlannedVlans[]): PlannedVlans => ({
  numbers: new Set(all.flatMap(({ numbers }) => [...numbers])),
  withoutNumber: all.some(({ withoutNumber }) => withoutNumber),
  first: all[0]?.first ?? null,
});

function joinStretch(sets: DisjointSets, stretch: Stretch, isOpen: (end: Plugged) => boolean): void {
  for (const { hub } of stretch.edges) {
    if (!isOpen(hub)) continue;
    const { untagged, tagged } = memberAt(hub, stretch);
    if (untagged !== null) sets.join(stretch.name, `${hub.device.id} ${untagged}`);
    // what has a tag passes a plain switch as it is
    for (const vlan of tagged) sets.join(`${stretch.name} ${vlan}`, `${hub.device.id} ${vlan}`);
  }
}

/** What a socket of a managed switch does with VLANs: null drops what comes without a tag. */
export interface Member {
  readonly untagged: number | null;
  readonly tagged: ReadonlySet<number>;
}

const byHand = ({ device, socket }: Plugged): Member | undefined => {
  const set = device.socketVlans.find((one) => one.socket === socket);
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
    if (two.tagged.has(vlan)) sets.join(`${a.device.id} ${vlan}`, `${b.device.id} ${vlan}`);
  if (one.untagged !== null && two.untagged !== null)
    sets.join(`${a.device.id} ${one.untagged}`, `${b.device.id} ${two.untagged}`);
}

function crossingAt(a: Plugged, b: Plugged, all: ReadonlySet<number>): ReadonlySet<number> {
  const [one, two] = [trunkAt(a, all), trunkAt(b, all)];
  const both = [...one.tagged].filter((vlan) => two.tagged.has(vlan));
  return new Set(one.untagged !== null && one.untagged === two.untagged ? [...both, one.untagged] : both);
}

/** What a circle in a stretch fills: its own domain, and every VLAN that passes there with its tag. */
function flooded(sets: DisjointSets, stretch: Stretch, isOpen: (end: Plugged) => boolean): string[] {
  const tagged = stretch.edges.flatMap(({ hub }) => (isOpen(hub) ? [...memberAt(hub, stretch).tagged] : []));
  return [sets.find(stretch.name), ...tagged.map((vlan) => sets.find(`${stretch.name} ${vlan}`))];
}

/** Ports of managed switches by cable and socket, numbered in the order of the type's sockets. */
function treePorts(show: Show, wires: readonly Wire[], stretches: readonly Stretch[]): Map<string, TreePort> {
  const ports = new Map<string, TreePort>();
  const idOf = memo((deviceId) => bridgeId(show, deviceId));
  const add = (end: Plugged, stretch: string) =>
    void ports.set(plugKey(end), {
      bridge: end.device.id,
      id: idOf(end.device.id),
      number: end.type.sockets.findIndex(({ key }) => key === end.socket) + 1,
      stretch,
    });
  for (const { a, b } of wires)
    if (isManaged(a) && isManaged(b)) for (const end of [a, b]) add(end, `cable ${a.cable.id}`);
  for (const { name, edges } of stretches) for (const { hub } of edges) add(hub, `stretch ${name}`);
  return ports;
}

const bridgeId = (show: Show, deviceId: string): string =>
  macOf(show, deviceId, typeOf(show, show.devices[deviceId])?.adapters[0]?.key ?? 'bridge', 0);
