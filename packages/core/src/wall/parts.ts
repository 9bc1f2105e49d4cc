import type { Wall } from '../show/index.ts';
import { downOf, placesOf, type Panel, type Place } from './size.ts';
import { shareOf, type Capacity } from './share.ts';

/** What one output or receiver drives, in panels. */
export type Part = Wall['parts'][number];
type Shape = Pick<Wall, 'columns'>;

/** Columns to so many outputs, as equal as they can be: the first ones get what is left over (need 10.2, C73). */
export function equalParts(wall: Shape, outputs: number): Part[] {
  const across = wall.columns.length;
  const count = Math.min(Math.max(1, outputs), across);
  const widths = Array.from({ length: count }, (_, at) => Math.floor(across / count) + (at < across % count ? 1 : 0));
  return partsOf(wall, widths);
}

/** Columns to outputs by given widths, from the left. */
export function partsOf(wall: Shape, widths: readonly number[]): Part[] {
  const height = downOf(wall);
  let x = 0;
  return widths.map((width, at) => {
    const part = { output: at + 1, x, y: 0, width, height };
    x += width;
    return part;
  });
}

/**
 * The fewest outputs that carry the wall by whole columns from left to right: each takes as many as it can, and no
 * division by columns has fewer. Undefined where a single column is too much for one output.
 */
export function fewestParts(
  wall: Pick<Wall, 'columns' | 'bits' | 'rate'>,
  panel: Panel,
  capacity: Capacity,
): Part[] | undefined {
  const widths: number[] = [];
  let held = 0;
  for (const { panels } of wall.columns) {
    const pixels = panels * panel.width * panel.height;
    if (shareOf(pixels, wall, capacity) > 1) return undefined;
    if (widths.length === 0 || shareOf(held + pixels, wall, capacity) > 1) {
      widths.push(0);
      held = 0;
    }
    widths[widths.length - 1] = (widths.at(-1) ?? 0) + 1;
    held += pixels;
  }
  return partsOf(wall, widths);
}

export interface PartFaults {
  /** Panels that nobody drives, and those that several do. */
  readonly missed: readonly Place[];
  readonly doubled: readonly Place[];
  /** Parts that hold no panel at all. */
  readonly empty: readonly Part[];
}

/** Do the parts make up the whole, every panel once (C73)? */
export function partFaults(wall: Shape, parts: readonly Part[]): PartFaults {
  const missed: Place[] = [];
  const doubled: Place[] = [];
  for (const place of placesOf(wall)) {
    const holding = parts.filter((part) => isIn(part, place)).length;
    if (holding === 0) missed.push(place);
    else if (holding > 1) doubled.push(place);
  }
  const empty = parts.filter((part) => !placesOf(wall).some((place) => isIn(part, place)));
  return { missed, doubled, empty };
}

export const isIn = ({ x, y, width, height }: Part, [column, row]: Place): boolean =>
  column >= x && column < x + width && row >= y && row < y + height;

export const panelsIn = (wall: Shape, part: Part): Place[] => placesOf(wall).filter((place) => isIn(part, place));

/** Parts as somebody in front reads them: row by row from the left. */
export const inPlace = (parts: readonly Part[]): Part[] => parts.toSorted((a, b) => a.y - b.y || a.x - b.x);

/** Does any panel hang in a part? */
export const holdsPanels = ({ columns }: Shape, { x, y, width, height }: Part): boolean =>
  columns.slice(x, x + width).some(({ panels, drop }) => panels > 0 && drop < y + height && drop + panels > y);

/** The same parts as somebody behind the wall counts them: the last from the left is the first (need 10.8, C74). */
export function mirrored(parts: readonly Part[]): Part[] {
  const byX = parts.toSorted((a, b) => a.x - b.x);
  const outputs = byX.map(({ output }) => output).reverse();
  return byX.map((part, at) => ({ ...part, output: outputs[at] ?? part.output }));
}

/** The parts with other outputs, and the strings with them: what hangs stays where it hangs. */
export function renumbered(
  wall: Pick<Wall, 'parts' | 'strings'>,
  parts: Part[],
): { parts: Part[]; strings: Wall['strings'] } {
  const strings = wall.strings.map(({ output, path }) => {
    const before = wall.parts.find((part) => part.output === output);
    return { output: parts.find((part) => part.x === before?.x && part.y === before.y)?.output ?? output, path };
  });
  return { parts, strings: strings.sort((a, b) => a.output - b.output) };
}

/** Surfaces as they are declared (need 10.3): each from one of the columns at which one begins to the next of them. */
export function surfacesOf(
  wall: Pick<Wall, 'columns' | 'surfaces'>,
  panel: Panel,
): { readonly x: number; readonly width: number; readonly height: number }[] {
  const across = wall.columns.length;
  const begins = [...new Set([0, ...wall.surfaces])].filter((x) => x < across).sort((a, b) => a - b);
  return begins.map((x, at) => {
    const end = begins[at + 1] ?? across;
    const height = downOf({ columns: wall.columns.slice(x, end) });
    return { x, width: (end - x) * panel.width, height: height * panel.height };
  });
}
