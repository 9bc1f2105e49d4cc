import { groupBy, memoFor } from '../../show/index.ts';
import type { Mover, PlacementTask } from './task.ts';

/**
 * What a placement costs, compared from left to right: interfaces without a place, addresses that move, unit numbers
 * that are not in the last figure, last figures that differ between the networks of one unit.
 */
export interface Cost {
  readonly unplaced: number;
  readonly moved: number;
  readonly offNumber: number;
  readonly offFigure: number;
}

/** Each step outweighs any sum of the steps below it, up to a few thousand interfaces (a /16 has 65,534). */
const step = { unplaced: 1e14, moved: 1e10, offNumber: 1e5, offFigure: 1 };

/** What one address costs one interface. */
export function costOf(mover: Mover, ip: number): number {
  const moved = mover.own !== undefined && mover.own !== ip ? step.moved : 0;
  const offNumber = mover.byUnit !== undefined && mover.byUnit !== ip ? step.offNumber : 0;
  const offFigure = mover.figures.size > 0 && !mover.figures.has(ip % 256) ? step.offFigure : 0;
  return moved + offNumber + offFigure;
}

/** The cost of a whole assignment; `ips` has undefined where a mover got no place. */
export function totalCost(movers: readonly Mover[], ips: readonly (number | undefined)[]): Cost {
  const cost = { unplaced: 0, moved: 0, offNumber: 0, offFigure: 0 };
  movers.forEach((mover, at) => {
    const ip = ips[at];
    if (ip === undefined) {
      cost.unplaced += 1;
      return;
    }
    if (mover.own !== undefined && mover.own !== ip) cost.moved += 1;
    if (mover.byUnit !== undefined && mover.byUnit !== ip) cost.offNumber += 1;
    if (mover.figures.size > 0 && !mover.figures.has(ip % 256)) cost.offFigure += 1;
  });
  return cost;
}

export interface Assignment {
  /** The address of each mover, in the order of the task. */
  readonly ips: readonly (number | undefined)[];
  /** For each domain without room: everybody who competes there, who got nothing included. */
  readonly crowds: readonly (readonly number[])[];
}

type Progress = (done: number, total: number) => void;

/**
 * The cheapest assignment of all: successive shortest paths on the bipartite graph of interfaces and addresses, with
 * node potentials (Edmonds and Karp 1972). "No place" is a place of its own that costs most, so that the result is
 * optimal whoever has to be left out. Free addresses of one domain that nobody wishes for are alike, so that only the
 * lowest is looked at: in practice each step ends at once.
 */
export function assign({ movers }: Pick<PlacementTask, 'movers'>, onProgress?: Progress): Assignment {
  const search = new Search(movers);
  movers.forEach((_, at) => {
    if (at % 100 === 0) onProgress?.(at, movers.length);
    search.place(at);
  });
  onProgress?.(movers.length, movers.length);
  const ips = movers.map((_, at) => search.addressOf(at));
  const left = movers.flatMap((mover, at) => (ips[at] === undefined ? [{ key: mover.domain.key, at }] : []));
  const crowds = [...groupBy(left, ({ key }) => key).values()].map((others) => {
    const at = others[0]?.at ?? 0;
    return [...new Set([...search.rivalsOf(at), ...others.map((other) => other.at)])].sort((a, b) => a - b);
  });
  return { ips, crowds };
}

/** Interfaces times addresses of a domain up to which the best choice of who is left out is searched for. */
const hugeSearch = 2_000_000;

interface Reached {
  readonly cost: number;
  readonly from: number;
}

class Search {
  private readonly ipOf = new Map<number, number>();
  private readonly movers: readonly Mover[];
  private readonly ownerOf = new Map<number, number>();
  private readonly potential = { mover: new Map<number, number>(), ip: new Map<number, number>() };
  private readonly lowest = new Map<string, number>();

  private readonly settled = new Set<string>();
  /** How many compete in each domain. */
  private readonly rivals = new Map<string, number>();

  constructor(movers: readonly Mover[]) {
    this.movers = movers;
    for (const { domain } of movers) this.rivals.set(domain.key, (this.rivals.get(domain.key) ?? 0) + 1);
  }

  addressOf(at: number): number | undefined {
    const ip = this.ipOf.get(at);
    return ip === undefined || ip < 0 ? undefined : ip;
  }

  /** Places one more mover, moving others on where that is cheapest. */
  place(start: number): void {
    const mover = this.movers[start];
    if (mover && this.isFullForGood(mover)) {
      this.own(start, -1 - start);
      // an edge that was chosen costs nothing any more
      this.potential.ip.set(-1 - start, step.unplaced);
      return;
    }
    this.settled.clear();
    const distance = new Map<number, number>([[start, 0]]);
    const best = new Map<number, Reached>();
    const settled = new Set<number>();
    let goal: (Reached & { readonly ip: number }) | undefined;
    for (;;) {
      const next = nearest(distance, settled);
      if (next === undefined || (goal && next.cost >= goal.cost)) break;
      settled.add(next.key);
      for (const ip of this.candidates(next.key)) {
        const cost = next.cost + this.reduced(next.key, ip);
        const owner = this.ownerOf.get(ip);
        if (owner === next.key || cost >= (best.get(ip)?.cost ?? Infinity)) continue;
        best.set(ip, { cost, from: next.key });
        if (owner !== undefined) distance.set(owner, Math.min(cost, distance.get(owner) ?? Infinity));
        else if (!goal || cost < goal.cost || (cost === goal.cost && ip < goal.ip)) goal = { ip, from: next.key, cost };
      }
    }
    if (!goal) return;
    this.lowerPotentials(goal.cost, distance, settled, best);
    this.flip(start, goal, best);
  }

  /**
   * In a full domain where everybody stands as cheaply as can be, nobody's moving on saves anything. Beyond a size that
   * takes minutes to search, who is left out is decided by the order of names alone.
   */
  private isFullForGood(mover: Mover): boolean {
    const { hosts, key } = mover.domain;
    if (mover.own !== undefined || this.lowestFree(mover) !== undefined) return false;
    const wants = this.wishesOf(mover).some((ip) => !this.ownerOf.has(ip));
    const isHuge = hosts.length * (this.rivals.get(key) ?? 0) > hugeSearch;
    if (wants || isHuge) return !wants;
    // as long as nothing is searched for, what was settled stays so
    const settled = this.settled.has(key) || hosts.every((ip) => this.isSettled(ip, key));
    if (settled) this.settled.add(key);
    return settled;
  }

  /** Its owner competes here only, and nothing of it could cost less. */
  private isSettled(ip: number, key: string): boolean {
    const owner = this.movers[this.ownerOf.get(ip) ?? -1];
    return owner?.domain.key === key && costOf(owner, ip) === 0;
  }

  private own(at: number, ip: number): void {
    this.ipOf.set(at, ip);
    this.ownerOf.set(ip, at);
  }

  /** Everybody reached from one mover through addresses that others own: no two of them can be told apart as the cause. */
  rivalsOf(start: number): number[] {
    const reached = new Set([start]);
    const seen = new Set<string>();
    for (const at of reached) {
      const mover = this.movers[at];
      if (!mover) continue;
      // every member of a full domain looks at the same addresses
      const isNew = !seen.has(mover.domain.key) && this.lowestFree(mover) === undefined;
      if (isNew) seen.add(mover.domain.key);
      for (const ip of isNew ? [...this.wishesOf(mover), ...mover.domain.hosts] : this.wishesOf(mover)) {
        const owner = this.ownerOf.get(ip);
        if (owner !== undefined) reached.add(owner);
      }
    }
    return [...reached];
  }

  private reduced(at: number, ip: number): number {
    const mover = this.movers[at];
    const cost = ip < 0 || !mover ? step.unplaced : costOf(mover, ip);
    return cost + (this.potential.mover.get(at) ?? 0) - (this.potential.ip.get(ip) ?? 0);
  }

  /** Keeps every reduced cost at or above nought; what lies beyond the goal keeps its potential. */
  private lowerPotentials(
    goal: number,
    distance: ReadonlyMap<number, number>,
    settled: ReadonlySet<number>,
    best: ReadonlyMap<number, Reached>,
  ): void {
    for (const at of settled)
      this.potential.mover.set(at, (this.potential.mover.get(at) ?? 0) + (distance.get(at) ?? 0) - goal);
    for (const [ip, { cost }] of best)
      if (cost < goal) this.potential.ip.set(ip, (this.potential.ip.get(ip) ?? 0) + cost - goal);
  }

  /** Hands the addresses on along the path that led to the goal, from its end. */
  private flip(
    start: number,
    goal: { readonly ip: number; readonly from: number },
    best: ReadonlyMap<number, Reached>,
  ): void {
    let { ip, from } = goal;
    for (;;) {
      const given = this.ipOf.get(from);
      this.own(from, ip);
      if (from === start || given === undefined) return;
      ip = given;
      from = best.get(given)?.from ?? start;
    }
  }

  /** Places worth looking at: the wishes, the lowest free one of the domain (all of it when it is full), and none. */
  private candidates(at: number): Iterable<number> {
    const mover = this.movers[at];
    if (!mover) return [];
    const free = this.lowestFree(mover);
    const wishes = this.wishesOf(mover);
    const nowhere = -1 - at;
    return free === undefined ? new Set([...wishes, ...mover.domain.hosts, nowhere]) : [...wishes, free];
  }

  private wishesOf({ own, byUnit, figures, domain }: Mover): number[] {
    const alike = [...figures].flatMap((figure) => withFigure(domain.hosts, figure));
    const unit = byUnit !== undefined && isIn(domain.hosts, byUnit) ? [byUnit] : [];
    return [...(own === undefined ? [] : [own]), ...unit, ...alike];
  }

  private lowestFree({ domain }: Mover): number | undefined {
    let at = this.lowest.get(domain.key) ?? 0;
    while (at < domain.hosts.length && this.ownerOf.has(domain.hosts[at] ?? 0)) at += 1;
    // an address that has an owner keeps one, so the cursor only moves on; "no place" may be given up again
    this.lowest.set(domain.key, at);
    return domain.hosts[at];
  }
}

function nearest(distance: ReadonlyMap<number, number>, settled: ReadonlySet<number>) {
  let found: { key: number; cost: number } | undefined;
  for (const [key, cost] of distance) if (!settled.has(key) && (!found || cost < found.cost)) found = { key, cost };
  return found;
}

/** Addresses of a domain by their last figure, sorted once: many interfaces ask. */
const byFigure = memoFor((hosts: readonly number[]) => {
  const groups = new Map<number, number[]>();
  for (const ip of hosts) groups.set(ip % 256, [...(groups.get(ip % 256) ?? []), ip]);
  return groups;
});
const withFigure = (hosts: readonly number[], figure: number): readonly number[] => byFigure(hosts).get(figure) ?? [];

/** Binary search in ascending addresses. */
function isIn(hosts: readonly number[], ip: number): boolean {
  let [low, high] = [0, hosts.length - 1];
  while (low <= high) {
    const middle = (low + high) >> 1;
    const there = hosts[middle] ?? 0;
    if (there === ip) return true;
    if (there < ip) low = middle + 1;
    else high = middle - 1;
  }
  return false;
}
