import type { Show } from '../show/index.ts';
import { wiresOf } from './domains/wires.ts';
import type { BroadcastDomains } from './domains/broadcast-domains.ts';

interface Edge {
  readonly runId: string;
  readonly to: string;
}

/** A way through the network: the runs that it takes, and what it passes between one and the next: one fewer. */
export interface RunPath {
  readonly runs: readonly string[];
  readonly between: readonly string[];
}

/**
 * Runs and what they join: a switch as a whole, one adapter of anything else (`device/adapter`). Frames take the runs
 * that spanning tree leaves open; a run that no other way goes round is a bridge.
 */
export interface RunGraph {
  readonly path: (from: string, to: string) => RunPath | undefined;
  readonly isBridge: (runId: string) => boolean;
}

/** One walk over all runs for the ways, and one for the bridges (Tarjan 1974, with an own stack). */
export function runGraph(show: Show, { isShut }: Pick<BroadcastDomains, 'isShut'>): RunGraph {
  const [all, open] = [new Map<string, Edge[]>(), new Map<string, Edge[]>()];
  const add = (near: Map<string, Edge[]>, from: string, edge: Edge) => {
    const known = near.get(from);
    if (known) known.push(edge);
    else near.set(from, [edge]);
  };
  for (const { a, b } of wiresOf(show)) {
    if (a.node === undefined || b.node === undefined) continue;
    const shut = [a, b].some(({ device, socket }) => isShut(device.id, socket));
    for (const near of shut ? [all] : [all, open]) {
      add(near, a.node, { runId: a.cable.id, to: b.node });
      add(near, b.node, { runId: a.cable.id, to: a.node });
    }
  }
  const forest = forestOf(open);
  const bridges = bridgesOf(all);
  return { path: (from, to) => pathIn(forest, from, to), isBridge: (runId) => bridges.has(runId) };
}

interface Place {
  readonly depth: number;
  readonly up: Edge | undefined;
  readonly root: string;
}

function forestOf(near: ReadonlyMap<string, readonly Edge[]>): ReadonlyMap<string, Place> {
  const places = new Map<string, Place>();
  for (const root of near.keys()) {
    if (places.has(root)) continue;
    places.set(root, { depth: 0, up: undefined, root });
    const queue = [root];
    for (let at = 0; at < queue.length; at += 1) {
      const node = queue[at] ?? '';
      const depth = (places.get(node)?.depth ?? 0) + 1;
      for (const { runId, to } of near.get(node) ?? [])
        if (!places.has(to)) {
          places.set(to, { depth, up: { runId, to: node }, root });
          queue.push(to);
        }
    }
  }
  return places;
}

function pathIn(places: ReadonlyMap<string, Place>, from: string, to: string): RunPath | undefined {
  const [first, last] = [places.get(from), places.get(to)];
  if (from === to) return { runs: [], between: [] };
  if (!first || first.root !== last?.root) return undefined;
  // both climb until they meet
  const [up, down]: [Edge[], Edge[]] = [[], []];
  let [a, b] = [from, to];
  const depthOf = (node: string) => places.get(node)?.depth ?? 0;
  while (a !== b) {
    const [node, steps] = depthOf(a) >= depthOf(b) ? [a, up] : [b, down];
    const edge = places.get(node)?.up;
    if (!edge) return undefined;
    steps.push(edge);
    if (steps === up) a = edge.to;
    else b = edge.to;
  }
  const passed = [...up.map((edge) => edge.to), ...down.toReversed().map((edge) => edge.to)];
  // where they meet both ways tell it
  const between = passed.filter((node, at) => node !== passed[at - 1] && node !== from && node !== to);
  return { runs: [...up, ...down.toReversed()].map(({ runId }) => runId), between };
}

function bridgesOf(near: ReadonlyMap<string, readonly Edge[]>): ReadonlySet<string> {
  const bridges = new Set<string>();
  const order = new Map<string, number>();
  const low = new Map<string, number>();
  for (const root of near.keys()) {
    if (order.has(root)) continue;
    const stack: { readonly node: string; readonly by: string; next: number }[] = [{ node: root, by: '', next: 0 }];
    order.set(root, order.size);
    low.set(root, order.get(root) ?? 0);
    for (let top = stack.at(-1); top; top = stack.at(-1)) {
      const edge = near.get(top.node)?.[top.next];
      top.next += 1;
      if (edge) {
        if (edge.runId === top.by) continue;
        const seen = order.get(edge.to);
        if (seen === undefined) {
          order.set(edge.to, order.size);
          low.set(edge.to, order.get(edge.to) ?? 0);
          stack.push({ node: edge.to, by: edge.runId, next: 0 });
        } else low.set(top.node, Math.min(low.get(top.node) ?? 0, seen));
        continue;
      }
      stack.pop();
      const parent = stack.at(-1);
      if (!parent) continue;
      const own = low.get(top.node) ?? 0;
      low.set(parent.node, Math.min(low.get(parent.node) ?? 0, own));
      if (own > (order.get(parent.node) ?? 0)) bridges.add(top.by);
    }
  }
  return bridges;
}
