import { cablingFacts, runGraph, type RunGraph } from '../cabling/index.ts';
import { groupBy, hostOf, rowsOf, type Link, type Show } from '../show/index.ts';
import { endsOf, type Ends, type LinkFacts } from './ends.ts';
import { forecast, linkFacts, type Sounding } from './forecast.ts';
import { legsOf, nodeOf } from './legs.ts';

/** What goes: one run, a unit that has no power, or a circuit with everything that hangs on it. */
export interface Lost {
  readonly kind: 'run' | 'unit' | 'circuit';
  /** The id of the run or unit, the name of the circuit. */
  readonly id: string;
}

export interface Loss extends Lost {
  /** Ids of links that reach the bottom now, and stop then. */
  readonly stops: readonly string[];
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
    [...suspects].map(([id, suspect]) => ({ kind, id, stops: stopping(show, facts, [{ kind, id }], suspect) }));
  return [...tried('run', runs), ...tried('unit', units), ...tried('circuit', circuitsOf(show, units))]
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

/** What hangs on each circuit: whoever stops for certain with one of its units, and whoever may. */
function circuitsOf(show: Show, units: ReadonlyMap<string, Suspect>): ReadonlyMap<string, Suspect> {
  const circuits = new Map<string, Suspect>();
  for (const [circuit, own] of unitsByCircuit(show)) {
    const all = own.flatMap(({ id }) => units.get(id) ?? []);
    if (all.length > 0) circuits.set(circuit, together(all));
  }
  return circuits;
}

const unitsByCircuit = (show: Show) =>
  groupBy(
    rowsOf(show, 'devices').filter(({ circuit }) => circuit !== ''),
    ({ circuit }) => circuit,
  );

const together = (all: readonly Suspect[]): Suspect => ({
  sure: new Set(all.flatMap(({ sure }) => [...sure])),
  perhaps: new Set(all.flatMap(({ perhaps }) => [...perhaps])),
});

function stopping(show: Show, facts: LinkFacts, lost: readonly Lost[], { sure, perhaps }: Suspect): string[] {
  const open = [...perhaps].filter((linkId) => !sure.has(linkId));
  if (open.length === 0) return [...sure].sort();
  const links = open.flatMap((linkId) => show.links[linkId] ?? []);
  return [...new Set([...sure, ...stopsWithout(show, facts, lostWith(show, lost), links)])].sort();
}

/** Which links stop when several things go at once: tried out, with everything else as it is. */
export function stopsWithAll(
  show: Show,
  facts: LinkFacts,
  soundings: Iterable<Sounding>,
  lost: readonly Lost[],
): string[] {
  const off = new Set(lost.flatMap((one) => unitsOf(show, one)));
  const hostIds = ({ controllerId, targetId }: Link) =>
    [controllerId, targetId].flatMap((id) => show.devices[id] ?? []).map((device) => hostOf(show, device).id);
  const reaching = [...soundings].flatMap(({ link, stopsAt }) => (stopsAt ? [] : [link]));
  const isOff = (link: Link) => hostIds(link).some((id) => off.has(id));
  const others = reaching.filter((link) => !isOff(link));
  const stops = stopsWithout(show, facts, lostWith(show, lost), others);
  return [...reaching.filter(isOff).map(({ id }) => id), ...stops].sort();
}

function unitsOf(show: Show, { kind, id }: Lost): string[] {
  if (kind === 'run') return [];
  return kind === 'unit' ? [id] : (unitsByCircuit(show).get(id) ?? []).map((device) => device.id);
}

/** The runs that go with a loss. */
export function lostWith(show: Show, lost: readonly Lost[]): ReadonlySet<string> {
  const off = new Set(lost.flatMap((one) => unitsOf(show, one)));
  const runs = new Set(lost.flatMap(({ kind, id }) => (kind === 'run' ? [id] : [])));
  return new Set(
    rowsOf(show, 'cables').flatMap(({ id, fromDevice, toDevice }) =>
      runs.has(id) || off.has(fromDevice) || off.has(toDevice) ? [id] : [],
    ),
  );
}

/** Which of some links stop in a network without some runs: worked out anew, with every switch set as it is now. */
export function stopsWithout(
  show: Show,
  { addressing, placement, planned }: Pick<LinkFacts, 'addressing' | 'placement' | 'planned'>,
  lost: ReadonlySet<string>,
  links: readonly Link[],
): string[] {
  const without = linkFacts(
    show,
    addressing,
    (networkIds) => ({ change: placement(networkIds) }),
    cablingFacts(show, lost),
    planned,
  );
  return links.flatMap((link) => (forecast(show, without, link).stopsAt ? [link.id] : []));
}
