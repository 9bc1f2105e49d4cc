import { once, type Show } from '../show/index.ts';
import { DisjointSets } from './domains/disjoint-sets.ts';
import { isManaged, wiresOf } from './domains/wires.ts';
import type { BroadcastDomains } from './domains/broadcast-domains.ts';
import { runGraph, type RunPath } from './run-graph.ts';

/** Runs and what they join, with the VLANs that each carries. */
export interface CarryingGraph {
  /** The way that frames take now. */
  readonly path: (from: string, to: string) => RunPath | undefined;
  /** The parts into which a VLAN falls without a run or a unit, by node; runs that spanning tree holds back count. */
  readonly partsWithout: (kind: 'run' | 'unit', id: string, vlan: number | null) => ReadonlyMap<string, number>;
  /** The managed switches on which the stretch of a unit or plain switch hangs. */
  readonly hubsOf: (node: string) => ReadonlySet<string>;
}

interface Edge {
  readonly runId: string;
  readonly a: string;
  readonly b: string;
  readonly devices: readonly [string, string];
  /** Undefined for a run between managed switches. */
  readonly vlan: number | null | undefined;
  /** VLANs that cross a run between managed switches. */
  readonly crossing: ReadonlySet<number> | undefined;
  readonly takesTags: boolean;
  /** The end that is no managed switch, and the managed switch at the other one. */
  readonly inner: string | undefined;
  readonly hub: string | undefined;
}

export function carryingGraph(show: Show, domains: BroadcastDomains): CarryingGraph {
  const edges = wiresOf(show).flatMap(({ a, b }): Edge[] => {
    if (a.node === undefined || b.node === undefined) return [];
    const inner = [a, b].find((end) => !isManaged(end));
    const adapter = inner?.adapter ?? inner?.type.adapters[0]?.key ?? '';
    return [
      {
        ...{ runId: a.cableId, a: a.node, b: b.node, devices: [a.deviceId, b.deviceId] },
        vlan: inner && domains.vlanOf(inner.deviceId, adapter),
        crossing: domains.crossing(a.cableId),
        takesTags: inner !== undefined && domains.takesTags(inner.deviceId, adapter),
        inner: inner?.node,
        hub: inner && [a, b].find(isManaged)?.deviceId,
      },
    ];
  });
  const carries = (edge: Edge, vlan: number | null) =>
    edge.vlan === undefined
      ? vlan === null || (edge.crossing?.has(vlan) ?? true)
      : edge.vlan === null || edge.takesTags || vlan === null || edge.vlan === vlan;
  const { path } = runGraph(show, domains);
  const hubs = once(() => hubsByStretch(edges));
  return {
    path,
    hubsOf: (node) => hubs()(node),
    partsWithout: (kind, id, vlan) => {
      const sets = new DisjointSets();
      const nodes = new Set<string>();
      for (const edge of edges) {
        const isLost = kind === 'run' ? edge.runId === id : edge.devices.includes(id);
        for (const [at, node] of [edge.a, edge.b].entries())
          if (kind === 'run' || edge.devices[at] !== id) nodes.add(node);
        if (!isLost && carries(edge, vlan)) sets.join(edge.a, edge.b);
      }
      const numbers = new Map<string, number>();
      return new Map(
        [...nodes].map((node) => {
          const root = sets.find(node);
          const number = numbers.get(root) ?? numbers.size;
          numbers.set(root, number);
          return [node, number] as const;
        }),
      );
    },
  };
}

function hubsByStretch(edges: readonly Edge[]): (node: string) => ReadonlySet<string> {
  const sets = new DisjointSets();
  for (const { a, b, inner, hub } of edges) if (inner !== undefined && hub === undefined) sets.join(a, b);
  const hubs = new Map<string, Set<string>>();
  for (const { inner, hub } of edges) {
    if (inner === undefined || hub === undefined) continue;
    const stretch = sets.find(inner);
    hubs.set(stretch, (hubs.get(stretch) ?? new Set()).add(hub));
  }
  return (node) => hubs.get(sets.find(node)) ?? new Set();
}
