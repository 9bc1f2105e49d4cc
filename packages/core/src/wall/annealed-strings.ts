import type { Place } from './size.ts';
import { cableOf, type Path, type Wanted } from './strings.ts';

/** Stands for a panel where none comes any more: after the last one of a string that is no loop. */
const nowhere = -1;
/** How much more cable is taken into the bargain, at first and at the end: panels. */
const [hot, cold] = [0.5, 0.12];
const longestExchanged = 12;

interface Move {
  readonly difference: number;
  readonly make: () => void;
}

/** Numbers from 0 to below 1, always the same ones: a wall that is planned twice gets the same strings (mulberry32). */
function steadyRandom(seed: number): () => number {
  let state = seed;
  return () => {
    state = (state + 0x6d2b79f5) | 0;
    let mixed = Math.imul(state ^ (state >>> 15), 1 | state);
    mixed = (mixed + Math.imul(mixed ^ (mixed >>> 7), 61 | mixed)) ^ mixed;
    return ((mixed ^ (mixed >>> 14)) >>> 0) / 2 ** 32;
  };
}

/**
 * Strings made cheaper by simulated annealing (Kirkpatrick, Gelatt and Vecchi 1983): two panels side by side are made to
 * follow one another, by turning a stretch of a string round (two-opt, Croes 1958), by exchanging stretches of two
 * strings (Taillard et al. 1997) or all that comes after (Potvin and Rousseau 1995). They never cost more than at the
 * start, carry what is wanted at most, and stay as many.
 */
export function annealed(start: readonly Path[], wanted: Wanted, { moves, seed, enough = 0 }: Annealing): Path[] {
  const random = steadyRandom(seed);
  const bundle = new Bundle(start, wanted, random);
  let cost = start.reduce((sum, path) => sum + cableOf(path, wanted.feed, wanted.loop), 0);
  let [least, heat] = [cost, hot];
  let best = bundle.paths();
  for (let at = 0; at < moves && least > enough + 1e-9; at += 1) {
    if (at % 256 === 0) heat = hot * (cold / hot) ** (at / moves);
    const move = bundle.anyMove();
    if (!move || move.difference > -heat * Math.log(1 - random())) continue;
    move.make();
    cost += move.difference;
    if (cost >= least - 1e-9) continue;
    least = cost;
    best = bundle.paths();
  }
  return best;
}

interface Annealing {
  readonly moves: number;
  readonly seed: number;
  /** Cable below which there is nothing to be found. */
  readonly enough?: number;
}

/** All strings of a wall, panels by their number. */
class Bundle {
  private readonly places: readonly Place[];
  private readonly beside: readonly (readonly number[])[];
  private readonly strings: number[][];
  /** By panel: on which string, and where on it. */
  private readonly on: Int32Array;
  private readonly index: Int32Array;
  /** Where each panel is, and the feed as one more: it is before the first one, and after the last one of a loop. */
  private readonly x: Float64Array;
  private readonly y: Float64Array;
  private readonly feed: number;
  private readonly end: number;
  private readonly wanted: Wanted;
  private readonly random: () => number;

  constructor(start: readonly Path[], wanted: Wanted, random: () => number) {
    this.wanted = wanted;
    this.random = random;
    this.places = start.flat();
    this.x = Float64Array.from([...this.places, wanted.feed], ([x]) => x);
    this.y = Float64Array.from([...this.places, wanted.feed], ([, y]) => y);
    this.feed = this.places.length;
    this.end = wanted.loop ? this.feed : nowhere;
    const numbers = new Map(this.places.map((place, at) => [String(place), at]));
    this.beside = this.places.map(([x, y]) =>
      (
        [
          [x - 1, y],
          [x + 1, y],
          [x, y - 1],
          [x, y + 1],
        ] as const
      ).flatMap((place) => numbers.get(String(place)) ?? []),
    );
    this.strings = start.map((path) => path.map((place) => numbers.get(String(place)) ?? 0));
    this.on = new Int32Array(this.places.length);
    this.index = new Int32Array(this.places.length);
    for (const at of this.strings.keys()) this.note(at);
  }

  paths(): Path[] {
    return this.strings.map((string) =>
      string.flatMap((panel) => [this.places[panel]].filter((one) => one !== undefined)),
    );
  }

  /** Something that would put two panels that hang side by side after one another. */
  anyMove(): Move | undefined {
    const a = this.below(this.places.length);
    const near = this.beside[a] ?? [];
    const b = near[this.below(near.length)];
    if (b === undefined) return undefined;
    if (this.on[a] === this.on[b]) return this.turned(a, b);
    return this.random() < 0.5 ? this.exchanged(a, b) : this.tailsExchanged(a, b);
  }

  private turned(a: number, b: number): Move | undefined {
    const [own, i, j] = [this.on[a] ?? 0, this.index[a] ?? 0, this.index[b] ?? 0];
    const string = this.strings[own] ?? [];
    const [low, high] = [Math.min(i, j), Math.max(i, j)];
    const kind = this.random();
    const [from, to] =
      kind < 0.42 ? [low + 1, high] : kind < 0.85 ? [low, high - 1] : kind < 0.92 ? [0, i] : [i, string.length - 1];
    if (from >= to) return undefined;
    const [before, first, last, after] = [
      this.at(own, from - 1),
      this.at(own, from),
      this.at(own, to),
      this.at(own, to + 1),
    ];
    return {
      difference: this.way(before, last) + this.way(first, after) - this.way(before, first) - this.way(last, after),
      make: () => {
        for (let one = from, other = to; one < other; one += 1, other -= 1)
          [string[one], string[other]] = [string[other] ?? 0, string[one] ?? 0];
        this.note(own, from, to);
      },
    };
  }

  /** After the first panel comes a stretch of the other string that begins or ends with the second. */
  private exchanged(a: number, b: number): Move | undefined {
    const [own, other, from] = [this.on[a] ?? 0, this.on[b] ?? 0, (this.index[a] ?? 0) + 1];
    const come = 1 + Math.floor(this.random() * this.random() * longestExchanged);
    const go = this.random() < 0.2 ? come - 1 : come;
    const isTurned = this.random() < 0.5;
    const otherFrom = (this.index[b] ?? 0) - (isTurned ? come - 1 : 0);
    const [string, far] = [this.strings[own] ?? [], this.strings[other] ?? []];
    if (otherFrom < 0 || otherFrom + come > far.length || from + go > string.length) return undefined;
    if (!this.isRoom(string.length - go + come) || !this.isRoom(far.length - come + go)) return undefined;
    const [coming, going] = [far.slice(otherFrom, otherFrom + come), string.slice(from, from + go)];
    const [before, after] = [this.at(own, from - 1), this.at(own, from + go)];
    const [farBefore, farAfter] = [this.at(other, otherFrom - 1), this.at(other, otherFrom + come)];
    const was = this.through(before, going, after) + this.through(farBefore, coming, farAfter);
    if (isTurned) coming.reverse();
    if (this.random() < 0.5) going.reverse();
    return {
      difference: this.through(before, coming, after) + this.through(farBefore, going, farAfter) - was,
      make: () => {
        string.splice(from, go, ...coming);
        far.splice(otherFrom, come, ...going);
        this.note(own);
        this.note(other);
      },
    };
  }

  /** After the first panel comes the second with all that follows it, and the other way round. */
  private tailsExchanged(a: number, b: number): Move | undefined {
    const [own, other] = [this.on[a] ?? 0, this.on[b] ?? 0];
    const [string, far] = [this.strings[own] ?? [], this.strings[other] ?? []];
    // a loop may be run through either way
    if (this.wanted.loop && this.random() < 0.5) {
      far.reverse();
      this.note(other);
    }
    const [from, otherFrom] = [(this.index[a] ?? 0) + 1, this.index[b] ?? 0];
    const [tail, farTail] = [string.length - from, far.length - otherFrom];
    if (!this.isRoom(from + farTail) || !this.isRoom(otherFrom + tail)) return undefined;
    const [next, farBefore] = [this.at(own, from), this.at(other, otherFrom - 1)];
    return {
      difference: this.way(a, b) + this.way(farBefore, next) - this.way(a, next) - this.way(farBefore, b),
      make: () => {
        const [going, coming] = [string.splice(from), far.splice(otherFrom)];
        string.push(...coming);
        far.push(...going);
        this.note(own);
        this.note(other);
      },
    };
  }

  private isRoom(panels: number): boolean {
    return panels >= 1 && panels <= this.wanted.most;
  }

  private at(string: number, index: number): number {
    return index < 0 ? this.feed : (this.strings[string]?.[index] ?? this.end);
  }

  private way(a: number, b: number): number {
    if (a === nowhere || b === nowhere) return 0;
    const { x, y } = this;
    return Math.abs((x[a] ?? 0) - (x[b] ?? 0)) + Math.abs((y[a] ?? 0) - (y[b] ?? 0));
  }

  /** Only what changes when a stretch is put somewhere else or turned round: the ways to it and away from it. */
  private through(before: number, stretch: readonly number[], after: number): number {
    const [first, last] = [stretch[0], stretch.at(-1)];
    return first === undefined || last === undefined
      ? this.way(before, after)
      : this.way(before, first) + this.way(last, after);
  }

  private below(count: number): number {
    return Math.floor(this.random() * count);
  }

  private note(at: number, from = 0, to = (this.strings[at]?.length ?? 0) - 1): void {
    const string = this.strings[at] ?? [];
    for (let index = from; index <= to; index += 1) {
      const panel = string[index] ?? 0;
      this.on[panel] = at;
      this.index[panel] = index;
    }
  }
}
