import { once, type Show } from '../show/index.ts';
import { wiresOf, type Wire } from './domains/wires.ts';
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
export function runGraph(
  show: Show,
  { isShut }: Pick<BroadcastDomains, 'isShut'>,
  wires: readonly Wire[] = wiresOf(show),
): RunGraph {
  const runs = wires.flatMap(({ a, b }) => {
    if (a.node === undefined || b.node === undefined) return [];
    const isOpen = [a, b].every(({ deviceId, socket }) => !isShut(deviceId, socket));
    return [{ id: a.cableId, a: a.node, b: b.node, isOpen }];
  });
  const all = nearOf(runs);
  const open = runs.every(({ isOpen }) => isOpen) ? all : nearOf(runs.filter(({ isOpen }) => isOpen));
  const forest = forestOf(open);
  const bridges = once(() => bridgesOf(all));
  return { path: (from, to) => pathIn(forest, from, to), isBridge: (runId) => bridges().has(runId) };
}

type Near = ReadonlyMap<string, readonly Edge[]>;

function nearOf(runs: readonly { readonly id: string; readonly a: string; readonly b: string }[]): Near {
  const near = new Map<string, Edge[]>();
  const add = (from: string, edge: Edge) => {
    const known = near.get(from);
    if (known) known.push(edge);
    else near.set(from, [edge]);
  };
  for (const { id, a, b } of runs) {
    add(a, { runId: id, to: b });
    add(b, { runId: id, to: a });
  }
  return near;
}

/** Where a node stands in its tree: the run that leads up, and to whom. */
interface Place {
  readonly node: string;
  readonly depth: number;
  readonly runId: string;
  readonly above: Place | undefined;
}

function forestOf(near: Near): ReadonlyMap<string, Place> {
  const places = new Map<string, Place>();
  for (const node of near.keys()) {
    if (places.has(node)) continue;
    const root: Place = { node, depth: 0, runId: '', above: undefined };
    places.set(node, root);
    const queue = [root];
    for (const above of queue)
      for (const { runId, to } of near.get(above.node) ?? [])
        if (!places.has(to)) {
          const place: Place = { node: to, depth: above.depth + 1, runId, above };
          places.set(to, place);
          queue.push(place);
        }
  }
  return places;
}

const nothing: RunPath = { runs: [], between: [] };

function pathIn(places: ReadonlyMap<string, Place>, from: string, to: string): RunPath | undefined {
  if (from === to) return nothing;
  let [a, b] = [places.get(from), places.get(to)];
  // both climb until they meet
  const [up, down]: [Place[], Place[]] = [[], []];
  while (a !== b) {
    if (!a || !b) return undefined;
    if (a.depth >= b.depth) {
      up.push(a);
      a = a.above;
    } else {
      down.push(b);
      b = b.above;
    }
  }
  if (!a) return undefined;
  const runs: string[] = [];
  const between: string[] = [];
  for (const { node, runId } of up) {
    runs.push(runId);
    if (node !== from) between.push(node);
  }
  // where they meet is passed once, unless it is an end
  if (a.node !== from && a.node !== to) between.push(a.node);
  for (let at = down.length - 1; at >= 0; at -= 1) {
    const step = down[at];
    if (!step) continue;
    runs.push(step.runId);
    if (step.node !== to) between.push(step.node);
  }
  return { runs, between };
}

/** One node on the way down: when it was met, and the earliest that it reaches without the run that led here. */
interface Met {
  readonly edges: readonly Edge[];
  readonly by: string;
  readonly order: number;
  low: number;
  next: number;
}

function bridgesOf(near: Near): ReadonlySet<string> {
  const bridges = new Set<string>();
  const met = new Map<string, Met>();
  const meet = (node: string, by: string): Met => {
    const order = met.size;
    const known = { edges: near.get(node) ?? [], by, order, low: order, next: 0 };
    met.set(node, known);
    return known;
  };
  for (const root of near.keys()) {
    if (met.has(root)) continue;
    const stack = [meet(root, '')];
    for (let top = stack.at(-1); top; top = stack.at(-1)) {
      const edge = top.edges[top.next];
      top.next += 1;
      if (edge) {
        if (edge.runId === top.by) continue;
        const seen = met.get(edge.to);
        if (seen) top.low = Math.min(top.low, seen.order);
        else stack.push(meet(edge.to, edge.runId));
        continue;
      }
      stack.pop();
      const parent = stack.at(-1);
      if (!parent) continue;
      parent.low = Math.min(parent.low, top.low);
      if (top.low > parent.order) bridges.add(top.by);
    }
  }
  return bridges;
}
