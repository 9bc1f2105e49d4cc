import { cablingFacts, runGraph, type RunGraph } from '../cabling/index.ts';
import { rowsOf, typeOf, type Link, type Show } from '../show/index.ts';
import { endsOf, type Ends, type LinkFacts } from './ends.ts';
import { forecast, linkFacts, type Sounding } from './forecast.ts';
import type { Held } from './paths/held.ts';

/** What goes: one run, or everything that a unit passes on, when it has no power. */
export interface Loss {
  readonly kind: 'run' | 'unit';
  readonly id: string;
  /** Ids of links that reach the bottom now, and stop then. */
  readonly stops: readonly string[];
}

/** Two places between which frames have to pass for a link to work. */
interface Leg {
  readonly from: Held;
  readonly to: Held;
  /**
   * Something else may do without it: not every command waits for the answer that a unit sends where it was told to,
   * and another server may hand an address out.
   */
  readonly mayDoWithout: boolean;
}

/** What may go: links that surely stop with it, and links of which only trying it tells. */
interface Suspect {
  readonly sure: Set<string>;
  readonly perhaps: Set<string>;
}

/**
 * What a loss takes down (C45): for each run and each unit the links that stop, those that most hangs on first. Every
 * link follows its ways there and back once. Where a run on them is a bridge of the network and no machine of the link
 * has a second address, the link stops with it for certain; where another way may go round, or another address may do,
 * the loss is tried: the same forecast, over a network without it.
 */
export function lossesOf(show: Show, facts: LinkFacts, soundings: Iterable<Sounding>): Loss[] {
  const graph = runGraph(show, facts.cabling.domains());
  const [runs, units] = [new Map<string, Suspect>(), new Map<string, Suspect>()];
  for (const { link, stopsAt } of soundings) {
    if (stopsAt) continue;
    const ends = endsOf(show, facts, link);
    if (ends) followLink(show, { facts, graph, runs, units }, ends);
  }
  const tried = (kind: Loss['kind'], suspects: ReadonlyMap<string, Suspect>) =>
    [...suspects].map(([id, suspect]) => ({ kind, id, stops: stopping(show, facts, { kind, id, suspect }) }));
  return [...tried('run', runs), ...tried('unit', units)]
    .filter(({ stops }) => stops.length > 0)
    .sort((a, b) => b.stops.length - a.stops.length || (a.kind + a.id < b.kind + b.id ? -1 : 1));
}

interface Following {
  readonly facts: LinkFacts;
  readonly graph: RunGraph;
  readonly runs: Map<string, Suspect>;
  readonly units: Map<string, Suspect>;
}

function followLink(show: Show, { facts, graph, runs, units }: Following, ends: Ends): void {
  const { link } = ends;
  const legs = legsOf(facts, ends);
  const own = [ends.from.machine, ends.to.machine].flatMap((machine) => machine ?? []);
  // another address may do where this one is lost
  const hasOthers = own.some(({ held }) => held.length > 1);
  const mark = (suspects: Map<string, Suspect>, id: string, isSure: boolean) => {
    const suspect = suspects.get(id) ?? { sure: new Set(), perhaps: new Set() };
    suspects.set(id, suspect);
    (isSure ? suspect.sure : suspect.perhaps).add(link.id);
  };
  // both ends have to be on, whatever else there is
  for (const { id } of own) mark(units, id, true);
  for (const { from, to, mayDoWithout } of legs) {
    const isSure = !hasOthers && !mayDoWithout;
    for (const { machineId } of [from, to]) if (own.every(({ id }) => id !== machineId)) mark(units, machineId, false);
    const path = graph.path(nodeOf(show, from), nodeOf(show, to));
    for (const id of path?.runs ?? []) mark(runs, id, isSure && graph.isBridge(id));
    for (const [at, node] of (path?.between ?? []).entries()) {
      const [before, behind] = [path?.runs[at] ?? '', path?.runs[at + 1] ?? ''];
      const isCut = graph.isBridge(before) || graph.isBridge(behind);
      mark(units, node.split('/')[0] ?? node, isSure && isCut);
    }
  }
}

function legsOf({ machines }: LinkFacts, { there, back, answer }: Ends): Leg[] {
  const hops = [there, back, answer].flatMap((walk) =>
    (walk?.hops ?? []).map((hop): Leg => ({ ...hop, mayDoWithout: walk === answer })),
  );
  const leases = hops.flatMap(({ from, to }) =>
    [from, to].flatMap((held): Leg[] => {
      const server = held.leasedBy === undefined ? undefined : machines.of(held.leasedBy);
      const leg = server?.held.find(({ domain }) => domain !== undefined && domain === held.domain);
      return leg ? [{ from: held, to: leg, mayDoWithout: true }] : [];
    }),
  );
  return [...hops, ...leases];
}

const nodeOf = (show: Show, { machineId, adapter }: Held): string =>
  typeOf(show, show.devices[machineId])?.forwards ? machineId : `${machineId}/${adapter}`;

function stopping(
  show: Show,
  facts: LinkFacts,
  { kind, id, suspect }: { readonly kind: Loss['kind']; readonly id: string; readonly suspect: Suspect },
): string[] {
  const open = [...suspect.perhaps].filter((linkId) => !suspect.sure.has(linkId));
  if (open.length === 0) return [...suspect.sure].sort();
  const stops = stopsWithout(
    show,
    facts,
    lostWith(show, kind, id),
    open.flatMap((linkId) => show.links[linkId] ?? []),
  );
  return [...new Set([...suspect.sure, ...stops])].sort();
}

/** The runs that go with a loss. */
export const lostWith = (show: Show, kind: Loss['kind'], id: string): ReadonlySet<string> =>
  kind === 'run'
    ? new Set([id])
    : new Set(
        rowsOf(show, 'cables').flatMap((cable) => (cable.fromDevice === id || cable.toDevice === id ? [cable.id] : [])),
      );

/** Which of some links stop in a network without some runs: worked out anew, with every switch set as it is now. */
export function stopsWithout(
  show: Show,
  { addressing, placement }: Pick<LinkFacts, 'addressing' | 'placement'>,
  lost: ReadonlySet<string>,
  links: readonly Link[],
): string[] {
  const without = linkFacts(
    show,
    addressing,
    (networkIds) => ({ change: placement(networkIds) }),
    cablingFacts(show, lost),
  );
  return links.flatMap((link) => (forecast(show, without, link).stopsAt ? [link.id] : []));
}
