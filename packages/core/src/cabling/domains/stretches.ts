import { gathered, groupBy, indexBy, indexOver, memo, once, type Show } from '../../show/index.ts';
import { DisjointSets } from './disjoint-sets.ts';
import { isManaged, wiresAt, wiresBetween, wiresById, without, type Plugged, type Wire } from './wires.ts';

/** VLANs that somebody plans for an adapter: those with a number, and whether a network without one is among them. */
export interface PlannedVlans {
  readonly numbers: ReadonlySet<number>;
  readonly withoutNumber: boolean;
  /** That of the first address, for an adapter that can be in one only. */
  readonly first: number | null;
}

/** A stretch of network without managed switches: plain switches, chains and single adapters that cables join. */
export interface Stretch {
  readonly name: string;
  readonly nodes: readonly string[];
  /** Those within it, in the order of their cables. */
  readonly wires: readonly Wire[];
  /** Its ends at managed switches, in the order of their cables. */
  readonly edges: readonly Edge[];
  readonly vlans: PlannedVlans;
  /** It is one adapter or one router on one cable, and several VLANs are planned for it: it takes them tagged. */
  readonly tagged: boolean;
}

export interface Edge {
  readonly hub: Plugged;
  readonly inner: Plugged;
}

export interface Stretches {
  /** The stretch of a node that is no managed switch. */
  readonly of: (node: string) => Stretch;
  /** Those that are more than one node. */
  readonly withPlainWires: () => readonly Stretch[];
}

/** Without runs that are `lost`, what is left of a stretch keeps what was `planned` for the whole of it. */
export function stretchesOf(show: Show, lost: ReadonlySet<string> = new Set(), planned?: Stretches): Stretches {
  const plain = () => without(lost, wiresBetween(show).get('plain'));
  const parts = once(() => partsOf(plain()), Object.is);
  const partOf = memo((node) => parts().get(node));
  const nameOf = (node: string) => partOf(node)?.name ?? node;
  const membersOf = (name: string) => partOf(name.replace(/^"/, ''))?.nodes ?? [name];
  const stretch = memo((name): Stretch => {
    const nodes = membersOf(name);
    const touching = nodes.flatMap((node) => without(lost, wiresAt(show).get(node)));
    const own = [...new Set(touching)].sort((one, two) => (one.a.cableId < two.a.cableId ? -1 : 1));
    const edges = own.flatMap(edgeOf);
    const wires = own.filter(
      ({ a, b }) => !isManaged(a) && !isManaged(b) && a.node !== undefined && b.node !== undefined,
    );
    const whole = planned?.of(nodes[0] ?? name);
    if (whole) return { name, nodes, wires, edges, vlans: whole.vlans, tagged: whole.tagged };
    const ends = endsAt(own, nodes);
    const vlans = together(ends.flatMap((end) => vlansAt(show, end)));
    const [only] = ends;
    const isAlone = nodes.length === 1 && edges.length === 1 && wires.length === 0;
    const mayTag = isAlone && only !== undefined && (!only.type.forwards || only.type.kind === 'router');
    return { name, nodes, wires, edges, vlans, tagged: mayTag && vlans.numbers.size + Number(vlans.withoutNumber) > 1 };
  });
  return {
    of: (node) => stretch(nameOf(node)),
    withPlainWires: () =>
      [
        ...new Set(
          plain().flatMap(({ a, b }) => [a, b].flatMap(({ node }) => (node === undefined ? [] : nameOf(node)))),
        ),
      ].map(stretch),
  };
}

/** Stretches that join sockets of managed switches: all others hang at one socket at most. */
export function stretchesThatJoin(
  show: Show,
  stretches: Stretches,
  lost: ReadonlySet<string>,
): () => readonly Stretch[] {
  const joining = gathered(show, 'cables', ({ id }): [string, Stretch][] => {
    const [edge] = lost.has(id) ? [] : (wiresAtHubs(show).get(id) ?? []);
    const stretch = edge?.inner.node === undefined ? undefined : stretches.of(edge.inner.node);
    return stretch && stretch.edges.length > 1 ? [['all', stretch]] : [];
  });
  return () => [...new Map((joining.get('all') ?? []).map((stretch) => [stretch.name, stretch])).values()];
}

/** By the wire: its end at a managed switch, where the other one is none. */
const wiresAtHubs = indexOver(wiresById, (wire): [string, Edge][] =>
  edgeOf(wire).map((edge) => [wire.a.cableId, edge]),
);

function edgeOf({ a, b }: Wire): Edge[] {
  if (isManaged(a) === isManaged(b)) return [];
  const edge = isManaged(a) ? { hub: a, inner: b } : { hub: b, inner: a };
  return edge.inner.node === undefined ? [] : [edge];
}

interface Part {
  readonly name: string;
  readonly nodes: readonly string[];
}

/** What plain wires join, by node. A plain switch gives its part its name before what is plugged into it. */
function partsOf(plain: readonly Wire[]): ReadonlyMap<string, Part> {
  const sets = new DisjointSets();
  for (const { a, b } of plain) sets.join(setOf(a), setOf(b));
  const nodes = new Map(plain.flatMap(({ a, b }) => [a, b]).map((end) => [end.node ?? '', setOf(end)]));
  const parts = groupBy(nodes.keys(), (node) => sets.find(nodes.get(node) ?? ''));
  return new Map([...parts].flatMap(([name, own]) => own.map((node) => [node, { name, nodes: own }] as const)));
}

const setOf = ({ node, type }: Plugged): string => `${type.forwards ? '"' : ''}${node ?? ''}`;

/** One end at each node. */
function endsAt(wires: readonly Wire[], nodes: readonly string[]): Plugged[] {
  const ends = new Map(wires.flatMap(({ a, b }) => [a, b]).map((end) => [end.node, end]));
  return nodes.flatMap((node) => ends.get(node) ?? []);
}

/** What is planned behind one node: of one adapter, or of all adapters of a switch. */
const vlansAt = (show: Show, { type, deviceId, adapter }: Plugged): PlannedVlans[] =>
  (type.forwards ? type.adapters.map(({ key }) => key) : [adapter]).flatMap(
    (key) => vlansOf(show, `${deviceId}/${key}`) ?? [],
  );

const together = (all: readonly PlannedVlans[]): PlannedVlans => ({
  numbers: new Set(all.flatMap(({ numbers }) => [...numbers])),
  withoutNumber: all.some(({ withoutNumber }) => withoutNumber),
  first: all[0]?.first ?? null,
});

/** Each address by its adapter: the VLAN that it is planned in. */
const vlansByAdapter = indexBy('addresses', ({ interfaceId, networkId }, show): [string, number | null][] => {
  const [its, network] = [show.interfaces[interfaceId], show.networks[networkId]];
  return its && network ? [[`${its.deviceId}/${its.adapter}`, network.vlan]] : [];
});

/** What is planned for an adapter, by `device/adapter`. */
export function vlansOf(show: Show, adapter: string): PlannedVlans | undefined {
  const vlans = vlansByAdapter(show).get(adapter);
  return (
    vlans && {
      numbers: new Set(vlans.filter((vlan) => vlan !== null)),
      withoutNumber: vlans.includes(null),
      first: vlans[0] ?? null,
    }
  );
}
