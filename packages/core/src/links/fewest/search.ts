import { DisjointSets } from '../../cabling/index.ts';
import { carriesFor, mayJoin, type SpotClass } from './candidates.ts';
import type { Cut } from './cuts.ts';

/** A further run between two classes of spots, by their places in the list. */
export type Joined = readonly [number, number];

export interface Found {
  readonly joins: readonly Joined[];
  /** No fewer would do: every part that has to be joined needs an end of a run, and a run has two. */
  readonly atLeast: number;
  /** The search saw every smaller set, or the bound allows none. */
  readonly proven: boolean;
}

/** How much the exact search may look at; what takes more is answered by the greedy one, with its bound beside it. */
const mostWork = 3_000_000;

/**
 * The smallest set of runs after which no cut parts what has to stay joined: a tree augmentation (Eswaran and Tarjan
 * 1976) with limited ends. Greedy first, from the smallest part to the run that mends most; then, where the bound
 * allows fewer, iterative deepening over every set.
 */
export function fewestJoins(cuts: readonly Cut[], classes: readonly SpotClass[]): Found {
  const table = new Table(cuts, classes);
  const start = table.begin();
  const atLeast = table.bound(start);
  const { joins, isWhole } = table.greedy(start);
  if (isWhole && joins.length <= atLeast) return { joins, atLeast, proven: true };
  const most = isWhole ? joins.length : Math.min(cuts.length, 12) + 1;
  let steps = Math.ceil(mostWork / (1 + cuts.length * classes.length));
  for (let size = atLeast; size < most; size += 1) {
    const found = table.search(start, size, () => (steps -= 1) > 0);
    if (found) return { joins: found.joins, atLeast: size, proven: true };
    if (steps <= 0) return { joins, atLeast: size, proven: false };
  }
  return { joins, atLeast: Math.min(most, joins.length), proven: isWhole };
}

/** Cuts that further runs can mend at all, whatever else they do: a loss in all its VLANs, or none of it. */
export function mendable(cuts: readonly Cut[], classes: readonly SpotClass[]): Cut[] {
  const open = new Set(cuts.filter((cut, at) => !isMendable(cut, at, classes)).map(({ id }) => id));
  return cuts.filter(({ id }) => !open.has(id));
}

function isMendable(cut: Cut, at: number, classes: readonly SpotClass[]): boolean {
  const sets = new DisjointSets();
  for (const [i, a] of classes.entries())
    for (const b of classes.slice(i + 1)) {
      const [one, two] = [a.parts[at] ?? -1, b.parts[at] ?? -1];
      if (one >= 0 && two >= 0 && one !== two && mayJoin(a, b) && carriesFor(cut, a, b))
        sets.join(String(one), String(two));
    }
  return cut.pairs.every(([one, two]) => sets.find(String(one)) === sets.find(String(two)));
}

/** Runs that were chosen so far: which parts of each cut they join, and the sockets that are left. */
interface State {
  readonly joins: readonly Joined[];
  /** By cut: the group of each part. */
  readonly groups: readonly (readonly number[])[];
  readonly room: readonly number[];
}

class Table {
  private readonly cuts: readonly Cut[];
  private readonly classes: readonly SpotClass[];

  constructor(cuts: readonly Cut[], classes: readonly SpotClass[]) {
    this.cuts = cuts;
    this.classes = classes;
  }

  begin(): State {
    const groups = this.cuts.map(({ parts }) => Array.from({ length: parts }, (_, part) => part));
    return { joins: [], groups, room: this.classes.map(({ room }) => room) };
  }

  /** Groups of a cut that need a run out of them. */
  private loose({ groups }: State, at: number): Set<number> {
    const own = groups[at] ?? [];
    const loose = new Set<number>();
    for (const [a, b] of this.cuts[at]?.pairs ?? [])
      if (own[a] !== own[b]) {
        loose.add(own[a] ?? -1);
        loose.add(own[b] ?? -1);
      }
    return loose;
  }

  /** Classes of a group of a cut that have a socket left. */
  private within({ groups, room }: State, at: number, group: number): number[] {
    const own = groups[at] ?? [];
    return this.classes.flatMap(({ parts }, i) => {
      const part = parts[at] ?? -1;
      return part >= 0 && own[part] === group && (room[i] ?? 0) > 0 ? [i] : [];
    });
  }

  /** The open sides, those with the fewest classes first. */
  private sides(state: State): { at: number; group: number; classes: readonly number[] }[] {
    return this.cuts
      .flatMap((_, at) =>
        [...this.loose(state, at)].map((group) => ({ at, group, classes: this.within(state, at, group) })),
      )
      .sort((a, b) => a.classes.length - b.classes.length);
  }

  /** Sides without a class in common need an end each; so many groups of one cut need one run fewer. */
  bound(state: State): number {
    const taken = new Set<number>();
    let apart = 0;
    for (const { classes } of this.sides(state)) {
      if (classes.length === 0) return Infinity;
      if (classes.every((one) => !taken.has(one))) {
        for (const one of classes) taken.add(one);
        apart += 1;
      }
    }
    const groups = this.cuts.map((_, at) => this.loose(state, at).size);
    return Math.max(Math.ceil(apart / 2), ...groups.map((count) => Math.ceil(count / 2)));
  }

  /** How many open cuts a run between two classes would mend or narrow; 0 where it may not be. */
  private gain(state: State, open: readonly boolean[], i: number, j: number): number {
    const [a, b] = [this.classes[i], this.classes[j]];
    if (!a || !b || i === j || !mayJoin(a, b) || (state.room[i] ?? 0) < 1 || (state.room[j] ?? 0) < 1) return 0;
    let gain = 0;
    for (const [at, cut] of this.cuts.entries()) {
      if (!open[at]) continue;
      const own = state.groups[at] ?? [];
      const [one, two] = [own[a.parts[at] ?? -1], own[b.parts[at] ?? -1]];
      if (one !== undefined && two !== undefined && one !== two && carriesFor(cut, a, b)) gain += 1;
    }
    return gain;
  }

  private with(state: State, [i, j]: Joined): State {
    const [a, b] = [this.classes[i], this.classes[j]];
    const groups = state.groups.map((own, at) => {
      const cut = this.cuts[at];
      const [one, two] = [own[a?.parts[at] ?? -1], own[b?.parts[at] ?? -1]];
      if (!a || !b || !cut || one === undefined || two === undefined || one === two) return own;
      return carriesFor(cut, a, b) ? own.map((group) => (group === two ? one : group)) : own;
    });
    const room = state.room.map((left, at) => (at === i || at === j ? left - 1 : left));
    return { joins: [...state.joins, [i, j]], groups, room };
  }

  /** From the smallest open side, the run that joins most. Sides from which no run leads any more stay open. */
  greedy(start: State): Pick<Found, 'joins'> & { readonly isWhole: boolean } {
    let state = start;
    const given = new Set<number>();
    for (;;) {
      const sides = this.sides(state).filter(({ at }) => !given.has(at));
      const [first] = sides;
      if (!first) return { joins: state.joins, isWhole: given.size === 0 };
      // an end at another side that is open and small mends two at once
      const small = sides.slice(0, Math.max(24, Math.ceil(sides.length / 2)));
      const ends = [...new Set(small.flatMap(({ classes }) => classes))];
      const [best] = [...this.options(state, first.classes, ends), ...this.options(state, first.classes)];
      if (best) state = this.with(state, best.join);
      else given.add(first.at);
    }
  }

  /** Runs from one of these classes, those that mend most first. */
  private options(state: State, from: readonly number[], to?: readonly number[]): Option[] {
    const ends = to ?? this.classes.map((_, at) => at);
    const open = this.cuts.map((_, at) => this.loose(state, at).size > 0);
    return from
      .flatMap((i) => ends.map((j): Option => ({ join: [i, j], gain: this.gain(state, open, i, j) })))
      .filter(({ gain }) => gain > 0)
      .sort((a, b) => b.gain - a.gain);
  }

  /** Every set of so many runs, from the open side with the fewest ways out. */
  search(state: State, size: number, mayGoOn: () => boolean): State | undefined {
    const [first] = this.sides(state);
    if (!first) return state;
    if (size === 0 || this.bound(state) > size) return undefined;
    for (const { join } of this.options(state, first.classes)) {
      if (!mayGoOn()) return undefined;
      const next = this.with(state, join);
      // it has to lead out of this side
      const leadsOut = next.groups[first.at] !== state.groups[first.at];
      const found = leadsOut ? this.search(next, size - 1, mayGoOn) : undefined;
      if (found) return found;
    }
    return undefined;
  }
}

interface Option {
  readonly join: Joined;
  readonly gain: number;
}
