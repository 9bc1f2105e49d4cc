/** Seeded dice: the same number makes the same rig everywhere. */
export interface Dice {
  /** A whole number from 0, below `sides`. */
  readonly below: (sides: number) => number;
  /** True so often, from 0 to 1. */
  readonly chance: (share: number) => boolean;
  readonly pick: <Item>(items: readonly Item[]) => Item;
}

export function diceOf(seed: number): Dice {
  let state = (seed ^ 0x9e3779b9) >>> 0;
  // splitmix32: neighbouring seeds give unrelated rigs
  const next = (): number => {
    state = (state + 0x9e3779b9) >>> 0;
    let mixed = state ^ (state >>> 16);
    mixed = Math.imul(mixed, 0x21f0aaad);
    mixed ^= mixed >>> 15;
    mixed = Math.imul(mixed, 0x735a2d97);
    return ((mixed ^ (mixed >>> 15)) >>> 0) / 2 ** 32;
  };
  const below = (sides: number) => Math.floor(next() * sides);
  return {
    below,
    chance: (share) => next() < share,
    pick: (items) => {
      const item = items[below(items.length)];
      if (item === undefined) throw new Error('nothing to pick from');
      return item;
    },
  };
}

const { process, console } = globalThis as unknown as {
  process: { env: Readonly<Record<string, string | undefined>> };
  console: { info: (text: string) => void };
};

/** A number that somebody set from outside, or the usual one. */
export function numberFrom(name: string, usual: number): number {
  const wanted = process.env[name];
  return wanted === undefined ? usual : Number(wanted);
}

/** Another seed for each run, printed, or a usual one; `RIG_SEED` names one that somebody wants to see again. */
export function rotatingSeed(usual = Date.now() % 1_000_000_000): number {
  const seed = numberFrom('RIG_SEED', usual);
  console.info(`RIG_SEED=${seed}`);
  return seed;
}
