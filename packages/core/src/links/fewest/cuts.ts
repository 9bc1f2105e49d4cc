import { carryingGraph, type CarryingGraph } from '../../cabling/index.ts';
import type { Link, Show } from '../../show/index.ts';
import type { Ends, LinkFacts } from '../ends.ts';
import { legsOf, nodeOf, type Leg } from '../legs.ts';
import type { Loss } from '../losses.ts';

/** What has to be joined again by another way when one run or one unit goes: nodes of one VLAN. */
export interface Cut {
  readonly kind: 'run' | 'unit';
  readonly id: string;
  readonly vlan: number | null;
  /** The part of the network that each node is in without it; a node that nothing joins to them is in none. */
  readonly partOf: ReadonlyMap<string, number>;
  readonly parts: number;
  /** Parts that some link needs joined. */
  readonly pairs: readonly (readonly [number, number])[];
  /** Links that stop with it. */
  readonly links: ReadonlySet<string>;
}

type Wanted = Omit<Cut, 'partOf' | 'parts' | 'pairs'> & { readonly nodes: [string, string][] };

/**
 * For each loss that stops a link which has to hold: the two sides that another way has to join. A link that passes a
 * unit needs the nodes before and behind it joined; a unit at its end cannot be passed by.
 */
export function cutsOf(
  show: Show,
  facts: LinkFacts,
  losses: readonly Loss[],
  ends: readonly Ends[],
  kind: Cut['kind'],
): Cut[] {
  const graph = carryingGraph(show, facts.cabling.domains());
  const stopping = new Map(losses.flatMap((loss) => (loss.kind === kind ? [[loss.id, new Set(loss.stops)]] : [])));
  const wanted = new Map<string, Wanted>();
  for (const end of ends)
    for (const leg of legsOf(facts, end)) {
      const vlan = vlanOf(facts, leg);
      for (const { id, nodes } of stepsOf(graph, kind, leg, show))
        if (stopping.get(id)?.has(end.link.id)) want(wanted, { kind, id, vlan, nodes }, end.link);
    }
  return [...wanted.values()].flatMap((cut) => cutOf(graph, cut));
}

interface Step {
  readonly id: string;
  readonly nodes: readonly [string, string];
}

function* stepsOf(graph: CarryingGraph, kind: Cut['kind'], { from, to }: Leg, show: Show): Generator<Step> {
  const [first, last] = [nodeOf(show, from), nodeOf(show, to)];
  const path = graph.path(first, last);
  if (!path) return;
  const nodes = [first, ...path.between, last];
  if (kind === 'run')
    for (const [at, id] of path.runs.entries()) yield { id, nodes: [nodes[at] ?? '', nodes[at + 1] ?? ''] };
  else
    for (const [at, node] of path.between.entries())
      yield { id: node.split('/')[0] ?? node, nodes: [nodes[at] ?? '', nodes[at + 2] ?? ''] };
}

/** The VLAN that managed switches put a leg into. */
function vlanOf({ cabling }: LinkFacts, { from, to }: Leg): number | null {
  const { vlanOf: vlan } = cabling.domains();
  return from.tag ?? to.tag ?? vlan(from.machineId, from.adapter) ?? vlan(to.machineId, to.adapter);
}

function want(
  wanted: Map<string, Wanted>,
  { kind, id, vlan, nodes }: Pick<Cut, 'kind' | 'id' | 'vlan'> & Pick<Step, 'nodes'>,
  link: Link,
): void {
  const key = `${id} ${vlan}`;
  const known = wanted.get(key) ?? { kind, id, vlan, nodes: [], links: new Set<string>() };
  wanted.set(key, known);
  known.nodes.push([...nodes]);
  (known.links as Set<string>).add(link.id);
}

function cutOf(graph: CarryingGraph, { nodes, ...cut }: Wanted): Cut[] {
  const partOf = graph.partsWithout(cut.kind, cut.id, cut.vlan);
  const pairs = new Map<string, readonly [number, number]>();
  for (const [a, b] of nodes) {
    const [one, two] = [partOf.get(a), partOf.get(b)];
    if (one !== undefined && two !== undefined && one !== two)
      pairs.set([Math.min(one, two), Math.max(one, two)].join(' '), [one, two]);
  }
  if (pairs.size === 0) return [];
  return [{ ...cut, partOf, parts: new Set(partOf.values()).size, pairs: [...pairs.values()] }];
}
