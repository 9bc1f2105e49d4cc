import { cablingFacts, runGraph, type RunGraph, type RunPath } from '../cabling/index.ts';
import { groupBy, hostOf, memoFor, rowsOf, type Link, type Show } from '../show/index.ts';
import { endsOf, type Ends, type LinkFacts } from './ends.ts';
import { forecast, linkFacts, type Sounding } from './forecast.ts';
import { legsOf, nodeOf } from './legs.ts';
import type { Held } from './paths/held.ts';

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

/** What may go: links that surely stop with it, and links of which only trying it tells, each in the order of their ids. */
interface Suspect {
  readonly sure: string[];
  readonly perhaps: string[];
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
  const nodeAt = memoFor((held: Held) => nodeOf(show, held));
  const reaching = [...soundings].filter(({ stopsAt }) => !stopsAt).sort((a, b) => (a.link.id < b.link.id ? -1 : 1));
  for (const { link } of reaching) {
    const ends = endsOf(show, facts, link);
    if (ends) followLink({ facts, graph, runs, units, nodeAt }, ends);
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
  /** The node of each address: many links share one. */
  readonly nodeAt: (held: Held) => string;
}

function mark(suspects: Map<string, Suspect>, id: string, linkId: string, isSure: boolean): void {
  let suspect = suspects.get(id);
  if (!suspect) suspects.set(id, (suspect = { sure: [], perhaps: [] }));
  const list = isSure ? suspect.sure : suspect.perhaps;
  // links come one after the other: one that is in the list already is the last of it
  if (list[list.length - 1] !== linkId) list.push(linkId);
}

function followLink({ facts, graph, runs, units, nodeAt }: Following, ends: Ends): void {
  const { id: linkId } = ends.link;
  const [near, far] = [ends.from.machine, ends.to.machine];
  // another address may do where this one is lost
  const hasOthers = (near?.held.length ?? 0) > 1 || (far?.held.length ?? 0) > 1;
  // both ends have to be on, whatever else there is
  if (near) mark(units, near.id, linkId, true);
  if (far) mark(units, far.id, linkId, true);
  const passes = ({ machineId }: Held) => {
    if (machineId !== near?.id && machineId !== far?.id) mark(units, machineId, linkId, false);
  };
  for (const { from, to, mayDoWithout } of legsOf(facts, ends)) {
    passes(from);
    passes(to);
    const path = graph.path(nodeAt(from), nodeAt(to));
    if (path) followPath({ graph, runs, units }, path, linkId, !hasOthers && !mayDoWithout);
  }
}

/** A loop of indices: a large show takes some hundred thousand of these steps. */
function followPath(
  { graph, runs, units }: Pick<Following, 'graph' | 'runs' | 'units'>,
  { runs: passed, between }: RunPath,
  linkId: string,
  isSure: boolean,
): void {
  let isCut = false;
  for (let at = 0; at < passed.length; at += 1) {
    const run = passed[at] ?? '';
    const isBridge = graph.isBridge(run);
    mark(runs, run, linkId, isSure && isBridge);
    const before = at > 0 ? between[at - 1] : undefined;
    if (before !== undefined) mark(units, deviceOf(before), linkId, isSure && (isCut || isBridge));
    isCut = isBridge;
  }
}

const deviceOf = (node: string): string => {
  const at = node.indexOf('/');
  return at < 0 ? node : node.slice(0, at);
};

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
  sure: [...new Set(all.flatMap(({ sure }) => sure))].sort(),
  perhaps: [...new Set(all.flatMap(({ perhaps }) => perhaps))],
});

function stopping(show: Show, facts: LinkFacts, lost: readonly Lost[], { sure, perhaps }: Suspect): string[] {
  if (perhaps.length === 0) return sure;
  const certain = new Set(sure);
  const open = perhaps.filter((linkId) => !certain.has(linkId));
  if (open.length === 0) return sure;
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
