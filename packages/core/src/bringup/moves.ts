import TinyQueue from 'tinyqueue';

/** Where the computer has to be: plugged into this segment, with an address in this subnet, or with any at all. */
export interface Need {
  readonly segment: string;
  /** `10.61.20.0/24`; null where it only has to hear the segment. */
  readonly subnet: string | null;
}

/** Something to do, in one of the places named, or anywhere where none is; after others, by their places in the list. */
export interface Job {
  readonly needs: readonly Need[];
  readonly after: readonly number[];
}

/** One adapter of the computer: where it is plugged in, its subnets, and how many it may be in at once. */
export interface AdapterAt {
  readonly segment: string | null;
  readonly subnets: readonly string[];
  readonly holds: number;
  /** Can its cable be led to a segment where it is not? */
  readonly goes?: (segment: string) => boolean;
  /** The segment that nobody else hears as long as its cable is led to one, since another was pulled out for it. */
  readonly cuts?: (segment: string) => string | undefined;
}

/** The computer goes somewhere: its cable, its address, or both. `replaces` is the subnet that it leaves for it. */
export interface Move {
  readonly adapter: number;
  readonly need: Need;
  readonly cable: boolean;
  readonly address: boolean;
  readonly replaces: string | null;
  /** The jobs that are done there, by their places in the list. */
  readonly jobs: readonly number[];
}

export interface Moves {
  /** What is done before the computer moves at all. */
  readonly before: readonly number[];
  readonly moves: readonly Move[];
  /** Changes of its address, and moves of its cables. */
  readonly changes: number;
  readonly cables: number;
  /** No order has fewer changes than this. */
  readonly bound: number;
  /** Nothing that was tried could be better, and everything was. */
  readonly exact: boolean;
  /** Jobs that nobody can do: they need each other, or a place that does not exist. */
  readonly stuck: readonly number[];
}

/** One address change weighs more than any number of cables. */
const change = 10_000;
const mostStates = 20_000;
/** With so many places nobody tries to go anywhere before there is something to do. */
const mostWide = 12;

interface Group {
  readonly needs: readonly Need[];
  readonly after: readonly number[];
}

interface State {
  readonly adapters: readonly AdapterAt[];
  readonly done: bigint;
  readonly cost: number;
  readonly guess: number;
  readonly from: State | undefined;
  readonly move: Omit<Move, 'jobs'> | undefined;
}

/**
 * The fewest changes of the computer's address, then the fewest moves of its cables, after which everything is done: a
 * shortest path over what is done and where the computer is (A*, Hart, Nilsson and Raphael 1968), exact as long as it
 * stays below a bound on its states, else the best next move each time. Doing something as soon as it can be done never
 * makes anything worse, so a state is followed by all that can be done there.
 */
export function fewestMoves(jobs: readonly Job[], adapters: readonly AdapterAt[], overlaps = isSame): Moves {
  const order = inOrder(jobs);
  const { groups, groupOf } = grouped(jobs, order);
  const goal = groups.reduce((all, _, at) => all | (1n << BigInt(at)), 0n);
  const start = stateOf(groups, adapters, 0n, 0, undefined, undefined);
  const bound = Math.floor(start.guess / change);
  const places = new Set(groups.flatMap(({ needs }) => needs.map(keyOf)));
  const isWide = adapters.length > 1 && places.size <= mostWide;
  const found = search({ groups, overlaps, isWide }, start, goal);
  const exact = found.exact && (isWide || adapters.length < 2);
  return told(jobs, order, groupOf, found.state, {
    bound: exact ? changesOf(found.state) : bound,
    exact,
  });
}

const changesOf = ({ cost }: State): number => Math.floor(cost / change);

/** Jobs before those that come after them; what stands in a circle is left out. */
function inOrder(jobs: readonly Job[]): number[] {
  const open = jobs.map(({ after }) => new Set(after).size);
  const next: number[][] = jobs.map(() => []);
  jobs.forEach(({ after }, at) => {
    for (const before of new Set(after)) next[before]?.push(at);
  });
  const order = open.flatMap((count, at) => (count === 0 ? [at] : []));
  for (const at of order)
    for (const later of next[at] ?? []) {
      open[later] = (open[later] ?? 0) - 1;
      if (open[later] === 0) order.push(later);
    }
  return order;
}

/** Jobs that become possible together and need the same are one: five hundred cameras move the computer no more than one. */
function grouped(jobs: readonly Job[], order: readonly number[]) {
  const groups: Group[] = [];
  const known = new Map<string, number>();
  /** The groups that a job waits for, itself included where it needs a place. */
  const ends = new Map<number, readonly number[]>();
  const groupOf = new Map<number, number>();
  for (const at of order) {
    const job = jobs[at];
    if (!job) continue;
    const after = [...new Set(job.after.flatMap((before) => ends.get(before) ?? []))].sort((a, b) => a - b);
    if (job.needs.length === 0) {
      ends.set(at, after);
      continue;
    }
    const key = `${job.needs.map(keyOf).sort().join('|')} ${after.join(',')}`;
    const group = known.get(key) ?? groups.push({ needs: job.needs, after }) - 1;
    known.set(key, group);
    groupOf.set(at, group);
    ends.set(at, [group]);
  }
  return { groups, groupOf: (at: number) => groupOf.get(at), ends };
}

const keyOf = ({ segment, subnet }: Need): string => `${segment} ${subnet ?? '*'}`;

const isThere = ({ segment, subnets }: AdapterAt, need: Need): boolean =>
  segment === need.segment && (need.subnet === null || subnets.includes(need.subnet));

/** A state with everything done that can be done there. */
function stateOf(
  groups: readonly Group[],
  adapters: readonly AdapterAt[],
  before: bigint,
  cost: number,
  from: State | undefined,
  move: State['move'],
): State {
  let done = before;
  const cut = new Set(adapters.map(({ segment, cuts }) => (segment === null ? undefined : cuts?.(segment))));
  const isMet = (need: Need) => !cut.has(need.segment) && adapters.some((adapter) => isThere(adapter, need));
  // groups stand behind those that they wait for: one pass is enough
  groups.forEach(({ needs, after }, at) => {
    if (has(done, at) || !after.every((one) => has(done, one))) return;
    if (needs.some(isMet)) done |= 1n << BigInt(at);
  });
  return { adapters, done, cost, guess: cost + leastLeft(groups, adapters, done), from, move };
}

const has = (set: bigint, at: number): boolean => ((set >> BigInt(at)) & 1n) === 1n;

/**
 * Every subnet that has to be gone to and is not held costs a change, but for those for which there is room; every segment
 * that nothing is plugged into, a move of a cable.
 */
function leastLeft(groups: readonly Group[], adapters: readonly AdapterAt[], done: bigint): number {
  const held = new Set(adapters.flatMap(({ subnets }) => subnets));
  const plugged = new Set(adapters.map(({ segment }) => segment));
  const missing = new Set<string>();
  const dark = new Set<string>();
  groups.forEach(({ needs }, at) => {
    const [first] = needs;
    if (!first || has(done, at)) return;
    const { subnet, segment } = first;
    if (subnet !== null && !held.has(subnet) && needs.every((need) => need.subnet === subnet)) missing.add(subnet);
    if (!plugged.has(segment) && needs.every((need) => need.segment === segment)) dark.add(segment);
  });
  const room = adapters.reduce((sum, { subnets, holds }) => sum + holds - Math.max(1, subnets.length), 0);
  return Math.max(0, missing.size - room) * change + dark.size;
}

interface Ground {
  readonly groups: readonly Group[];
  /** Going somewhere before anything can be done there is tried too: with several adapters that may save a cable. */
  readonly isWide: boolean;
  /** Whether somebody in both subnets would not know by which way one of them is reached. */
  readonly overlaps: (a: string, b: string) => boolean;
}
const isSame = (a: string, b: string): boolean => a === b;

function search(ground: Ground, start: State, goal: bigint): { state: State; exact: boolean } {
  const best = new Map<string, number>([[placeOf(start), start.cost]]);
  const open = new TinyQueue([start], byGuess);
  let deepest = start;
  for (let tried = 0; tried < mostStates; tried += 1) {
    const state = open.pop();
    if (!state) return { state: deepest, exact: true };
    if (state.done === goal) return { state, exact: true };
    if ((best.get(placeOf(state)) ?? Infinity) < state.cost) continue;
    if (countOf(state.done) > countOf(deepest.done)) deepest = state;
    for (const next of nextStates(ground, state)) {
      const key = placeOf(next);
      if ((best.get(key) ?? Infinity) <= next.cost) continue;
      best.set(key, next.cost);
      open.push(next);
    }
  }
  return { state: straight(ground, deepest, goal), exact: false };
}

/** From where the search gave up, the move each time that does most for its price. */
function straight(ground: Ground, from: State, goal: bigint): State {
  let state = from;
  while (state.done !== goal) {
    const [next] = nextStates(ground, state).sort((a, b) => a.cost - b.cost || countOf(b.done) - countOf(a.done));
    if (!next) return state;
    state = next;
  }
  return state;
}

function nextStates({ groups, overlaps, isWide }: Ground, state: State): State[] {
  const wanted = new Map<string, Need>();
  groups.forEach(({ needs, after }, at) => {
    if (!has(state.done, at) && (isWide || after.every((one) => has(state.done, one))))
      for (const need of needs) wanted.set(keyOf(need), need);
  });
  return [...wanted.values()].flatMap((need) =>
    state.adapters
      .flatMap((_, adapter) => goTo(state.adapters, adapter, need, overlaps))
      .map(({ adapters, cost, move }) => stateOf(groups, adapters, state.done, state.cost + cost, state, move)),
  );
}

/** The ways in which one adapter gets to a place: beside what it has where there is room, else instead of something. */
function goTo(adapters: readonly AdapterAt[], adapter: number, need: Need, overlaps: Ground['overlaps']) {
  const at = adapters[adapter];
  if (!at) return [];
  const cable = at.segment !== need.segment;
  if (cable && at.goes && !at.goes(need.segment)) return [];
  const isNew = need.subnet !== null && !at.subnets.includes(need.subnet);
  // another adapter has to leave it for that: a change of its own, lest room be made for nothing
  const isTaken = adapters.some(
    (other, n) => n !== adapter && other.subnets.some((own) => need.subnet !== null && overlaps(own, need.subnet)),
  );
  const instead: (string | null)[] = isNew && at.subnets.length >= at.holds ? [...at.subnets] : [null];
  return instead.map((replaces) => {
    const kept = at.subnets.filter((subnet) => subnet !== replaces);
    const subnets = isNew && need.subnet !== null ? [...kept, need.subnet].sort() : kept;
    // beside an address that is there, a second one is no change
    const own = isNew && (replaces !== null || at.subnets.length === 0);
    const others = isNew && isTaken;
    return {
      adapters: adapters.map((one, n) =>
        n === adapter ? { ...one, segment: need.segment, subnets } : isNew ? without(one, need.subnet, overlaps) : one,
      ),
      cost: (Number(own) + Number(others)) * change + Number(cable),
      move: { adapter, need, cable, address: isNew, replaces },
    };
  });
}

/** An adapter leaves the subnets that another one goes to: a packet knows only one way to each. */
function without(adapter: AdapterAt, subnet: string | null, overlaps: Ground['overlaps']): AdapterAt {
  const kept = adapter.subnets.filter((own) => subnet === null || !overlaps(own, subnet));
  return kept.length === adapter.subnets.length ? adapter : { ...adapter, subnets: kept };
}

const placeOf = ({ adapters, done }: State): string =>
  `${adapters.map(({ segment, subnets }) => `${segment} ${subnets.join(' ')}`).join('|')}#${done.toString(36)}`;

function countOf(set: bigint): number {
  let count = 0;
  for (let rest = set; rest > 0n; rest &= rest - 1n) count += 1;
  return count;
}

function told(
  jobs: readonly Job[],
  order: readonly number[],
  groupOf: (at: number) => number | undefined,
  last: State,
  known: Pick<Moves, 'bound' | 'exact'>,
): Moves {
  const states: State[] = [];
  for (let state: State | undefined = last; state; state = state.from) states.unshift(state);
  // a job without a place of its own is done as soon as everything before it is
  const stationOf = new Map<number, number>();
  for (const at of order) {
    const group = groupOf(at);
    const own = group === undefined ? 0 : states.findIndex(({ done }) => has(done, group));
    const others = (jobs[at]?.after ?? []).map((before) => stationOf.get(before) ?? Infinity);
    const station = own < 0 ? Infinity : Math.max(own, 0, ...others);
    if (station !== Infinity) stationOf.set(at, station);
  }
  const at = (station: number) => order.filter((job) => stationOf.get(job) === station);
  return {
    before: at(0),
    moves: states.slice(1).flatMap(({ move }, n) => (move ? [{ ...move, jobs: at(n + 1) }] : [])),
    changes: changesOf(last),
    cables: last.cost % change,
    ...known,
    stuck: jobs.flatMap((_, job) => (stationOf.has(job) ? [] : [job])),
  };
}

/** That with the least guess first; of equal ones that which has come further. */
const byGuess = (a: State, b: State): number => a.guess - b.guess || b.cost - a.cost;
