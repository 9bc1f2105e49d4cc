import { groupBy } from '../../show/index.ts';

/** A port of a managed switch in a stretch of network without managed switches: a cable, or plain switches and chains. */
export interface TreePort {
  readonly bridge: string;
  /** The switch's number in the tree: its MAC address. */
  readonly id: string;
  /** The place of the socket in its switch. */
  readonly number: number;
  readonly stretch: string;
}

/**
 * Ports that spanning tree shuts (IEEE 802.1D section 17: the lowest identifier becomes root, every bridge keeps its
 * cheapest way there, and each stretch one bridge that leads to the root). All hops cost the same.
 */
export function shutPorts(ports: readonly TreePort[]): ReadonlySet<TreePort> {
  const byStretch = groupBy(ports, ({ stretch }) => stretch);
  const byBridge = groupBy(ports, ({ bridge }) => bridge);
  const hops = hopsToRoot(byBridge, byStretch);
  const leading = new Map(
    [...byStretch].map(([stretch, here]) => [stretch, best(here, (a, b) => before(hops, a, b))] as const),
  );
  const shut = new Set<TreePort>();
  for (const [bridge, own] of byBridge) {
    const up = own.filter(({ stretch }) => leading.get(stretch)?.bridge !== bridge);
    const rootPort = best(up, (a, b) => {
      const [one, two] = [leading.get(a.stretch), leading.get(b.stretch)];
      return (one && two ? before(hops, one, two) : 0) || a.number - b.number;
    });
    for (const port of own) if (port !== rootPort && leading.get(port.stretch) !== port) shut.add(port);
  }
  return shut;
}

/** Breadth first from the root of each island of switches. */
function hopsToRoot(
  byBridge: ReadonlyMap<string, readonly TreePort[]>,
  byStretch: ReadonlyMap<string, readonly TreePort[]>,
): Map<string, number> {
  const idOf = (bridge: string): string => byBridge.get(bridge)?.[0]?.id ?? '';
  const hops = new Map<string, number>();
  // an island's lowest identifier comes before the others of it
  const bridges = [...byBridge.keys()].sort((a, b) => (idOf(a) < idOf(b) ? -1 : 1));
  for (const root of bridges) {
    if (hops.has(root)) continue;
    hops.set(root, 0);
    const open = [root];
    for (const bridge of open)
      for (const { stretch } of byBridge.get(bridge) ?? [])
        for (const { bridge: next } of byStretch.get(stretch) ?? [])
          if (!hops.has(next)) {
            hops.set(next, (hops.get(bridge) ?? 0) + 1);
            open.push(next);
          }
  }
  return hops;
}

/** The better of two ports of one stretch: nearer to the root, then the lower bridge, then the lower port. */
const before = (hops: ReadonlyMap<string, number>, a: TreePort, b: TreePort): number =>
  (hops.get(a.bridge) ?? 0) - (hops.get(b.bridge) ?? 0) || (a.id < b.id ? -1 : a.id > b.id ? 1 : a.number - b.number);

const best = <Item>(items: readonly Item[], order: (a: Item, b: Item) => number): Item | undefined =>
  items.reduce<Item | undefined>(
    (first, item) => (first === undefined || order(item, first) < 0 ? item : first),
    undefined,
  );
