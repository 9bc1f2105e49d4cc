import { wallCorners, type Wall } from '../show/index.ts';
import type { Place } from './size.ts';

/** The way of the data through panels, from the first on. */
export type Path = readonly Place[];

export type Corner = (typeof wallCorners)[number];
export interface Pattern {
  readonly by: 'rows' | 'columns';
  readonly from: Corner;
}
export const patterns: readonly Pattern[] = (['columns', 'rows'] as const).flatMap((by) =>
  wallCorners.map((from) => ({ by, from })),
);

/** Where cables come from: a place beside or behind the wall, in panels, as places are. */
export type Feed = readonly [column: number, row: number];

/** Cables are led along the edges of panels: across and then down. */
export const apart = ([a, b]: Feed, [c, d]: Feed): number => Math.abs(a - c) + Math.abs(b - d);

/** From a corner to and fro, by rows or by columns, over the panels that are there (need 10.14, C78). */
export function snake(places: readonly Place[], { by, from }: Pattern): Place[] {
  const [isRight, isBottom] = [from.endsWith('right'), from.startsWith('bottom')];
  const [line, along] = by === 'columns' ? [0, 1] : [1, 0];
  const [lineBack, alongBack] = by === 'columns' ? [isRight, isBottom] : [isBottom, isRight];
  const lines = [...new Set(places.map((place) => place[line] ?? 0))].sort((a, b) => (lineBack ? b - a : a - b));
  return lines.flatMap((each, at) => {
    const back = at % 2 === 0 ? alongBack : !alongBack;
    return places
      .filter((place) => place[line] === each)
      .sort((a, b) => ((a[along] ?? 0) - (b[along] ?? 0)) * (back ? -1 : 1));
  });
}

/** Cable of a string in panels: from the feed to its first, from each to the next, and back with a loop. */
export function cableOf(path: Path, feed: Feed, loop: boolean): number {
  const [first, last] = [path[0], path.at(-1)];
  if (!first || !last) return 0;
  const steps = path.slice(1).reduce((sum, place, at) => sum + apart(path[at] ?? place, place), 0);
  return apart(feed, first) + steps + (loop ? apart(last, feed) : 0);
}

/** What strings are wanted for a wall. */
export interface Wanted {
  /** Panels that one string carries at most. */
  readonly most: number;
  readonly feed: Feed;
  readonly loop: boolean;
}

/** Lengths of strings as planned against what each output reports (C78). */
export interface StringCount {
  readonly output: number;
  readonly planned: number;
  readonly found: number | undefined;
  /** The first panel that does not answer where the count is short: everything after it is dark. */
  readonly missing: Place | undefined;
}

export const stringCounts = ({ strings, found }: Pick<Wall, 'strings' | 'found'>): StringCount[] =>
  strings.map(({ output, path }) => {
    const reported = found.find((one) => one.output === output)?.panels;
    const isShort = reported !== undefined && reported < path.length;
    return { output, planned: path.length, found: reported, missing: isShort ? path[reported] : undefined };
  });

/** A string that somebody draws, panel by panel. */
export interface DrawnString {
  readonly output: number;
  readonly path: Path;
}

/** One panel more on it; one that is on it already is where it ends now. */
export function drawnOn({ output, path }: DrawnString, place: Place): DrawnString {
  const at = path.findIndex(([column, row]) => column === place[0] && row === place[1]);
  return { output, path: at < 0 ? [...path, place] : path.slice(0, at) };
}
