import { framesFor } from '../links/index.ts';

/** One take that was tried: milliseconds from the cut. */
export interface Take {
  readonly arrives: number;
  readonly starts: number;
  readonly moves: number;
}

export interface Spread {
  readonly median: number;
  readonly nearly: number;
  readonly worst: number;
}

/** What one setting of the delay does, over all takes that were tried. */
export interface Setting {
  readonly frames: number;
  /** Takes whose first frame stands still on air, since the bus changed before it moved. */
  readonly frozen: number;
  /** Takes of which at least one whole frame had passed before the bus changed. */
  readonly missing: number;
  /** Whole frames of the beginning that pass unseen, in the middle case and at most. */
  readonly missed: number;
  readonly mostMissed: number;
}

/** What the takes say of the delay (need 9.5, C63). Frames are of the switcher's rate. */
export interface TakeDelay {
  readonly takes: number;
  /** Milliseconds from the cut. */
  readonly arrives: Spread;
  readonly starts: Spread;
  readonly moves: Spread;
  /** The fewest frames at which no take shows a frozen frame. */
  readonly frames: number;
  /** Frames, with parts, between the slowest take and the bus at that setting. */
  readonly slack: number;
  readonly settings: readonly Setting[];
}

/** Half of the takes come by then, 95 of 100, and all of them: as many as that, without guessing between them. */
export function spreadOf(values: readonly number[]): Spread {
  const sorted = values.toSorted((a, b) => a - b);
  const at = (share: number) => sorted[Math.max(0, Math.ceil(sorted.length * share) - 1)] ?? 0;
  return { median: at(0.5), nearly: at(0.95), worst: at(1) };
}

/** Undefined where nothing was tried. */
export function takeDelay(takes: readonly Take[], framesPerSecond: number): TakeDelay | undefined {
  if (takes.length === 0) return undefined;
  const moves = spreadOf(takes.map((take) => take.moves));
  const frames = framesFor(moves.worst, framesPerSecond);
  return {
    takes: takes.length,
    arrives: spreadOf(takes.map((take) => take.arrives)),
    starts: spreadOf(takes.map((take) => take.starts)),
    moves,
    frames,
    slack: frames - (moves.worst * framesPerSecond) / 1000,
    settings: Array.from({ length: frames + 3 }, (_, setting) => settingOf(takes, setting, framesPerSecond)),
  };
}

/** What becomes of each take when the bus changes so many frames after the cut. */
export function settingOf(takes: readonly Take[], frames: number, framesPerSecond: number): Setting {
  // the first frame moves in the frame that begins at or after it: a bus that changes there shows no still
  const missed = takes.map(({ moves }) => frames - framesFor(moves, framesPerSecond));
  const seen = missed.filter((count) => count >= 0);
  return {
    frames,
    frozen: missed.length - seen.length,
    missing: seen.filter((count) => count >= 1).length,
    missed: spreadOf(seen).median,
    mostMissed: spreadOf(seen).worst,
  };
}

/** What the plan alone lets expect: the way of the order, and the start that the player's type names, at best and at worst. */
export const expectedMoves = (
  plays: { readonly startMs: number; readonly jitterMs: number },
  wayMs: number,
): { readonly least: number; readonly most: number } => ({
  least: wayMs + plays.startMs,
  most: wayMs + plays.startMs + plays.jitterMs,
});
