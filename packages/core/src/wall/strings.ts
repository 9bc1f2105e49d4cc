import { groupBy, type Wall } from '../show/index.ts';
import { placesOf, type Place } from './size.ts';

/** The way of the data through panels, from the first on. */
export type Path = readonly Place[];
type Shape = Pick<Wall, 'columns'>;

export const corners = ['top_left', 'top_right', 'bottom_left', 'bottom_right'] as const;
export type Corner = (typeof corners)[number];
export interface Pattern {
  readonly by: 'rows' | 'columns';
  readonly from: Corner;
}
export const patterns: readonly Pattern[] = (['columns', 'rows'] as const).flatMap((by) =>
  corners.map((from) => ({ by, from })),
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

export interface StringPlan {
  readonly paths: readonly Path[];
  /** Cable in panels, and less than which no plan needs. */
  readonly cable: number;
  readonly atLeast: number;
}

interface Wanted {
  /** Panels that one string carries at most. */
  readonly most: number;
  readonly feed: Feed;
  readonly loop: boolean;
}

/** Up to so many panels every way there is is tried. */
export const triedWhole = 12;

/** The least cable that brings data to every panel, no string over its limit: the fewest strings, then the least cable. */
export function cheapestStrings(wall: Shape, wanted: Wanted): StringPlan {
  const places = placesOf(wall);
  const paths = places.length <= triedWhole ? exactStrings(places, wanted) : goodStrings(places, wanted);
  const cable = paths.reduce((sum, path) => sum + cableOf(path, wanted.feed, wanted.loop), 0);
  return { paths, cable, atLeast: leastCable(places, wanted) };
}

/**
 * No plan does with less: every panel but the first of each string is reached from another one, which is a panel away
 * at least, and the first ones from the feed; with a loop the last ones go back there. A panel is both ends of its
 * string only where it is alone in it, for which the others have to leave room.
 */
export function leastCable(places: readonly Place[], { most, feed, loop }: Wanted): number {
  const strings = Math.ceil(places.length / most);
  const isAlone = strings * most - places.length >= most - 1;
  const near = places.map((place) => apart(feed, place)).sort((a, b) => a - b);
  const twice = near.flatMap((each) => [each, each]);
  const ends = loop ? (isAlone ? twice : near).slice(0, strings * 2) : near.slice(0, strings);
  return places.length - strings + ends.reduce((sum, each) => sum + each, 0);
}

/**
 * Every string over every set of panels (Held and Karp 1962), and then every way to make up the whole of so many sets.
 * Panels are bits of a set.
 */
function exactStrings(places: readonly Place[], { most, feed, loop }: Wanted): Path[] {
  const count = places.length;
  const toFeed = places.map((place) => apart(feed, place));
  const between = places.map((one) => places.map((other) => apart(one, other)));
  const sets = 1 << count;
  const cost = new Float64Array(sets * count).fill(Infinity);
  const before = new Int8Array(sets * count).fill(-1);
  for (let at = 0; at < count; at += 1) cost[(1 << at) * count + at] = toFeed[at] ?? 0;
  for (let set = 1; set < sets; set += 1)
    for (let last = 0; last < count; last += 1) {
      const here = cost[set * count + last] ?? Infinity;
      if (here === Infinity) continue;
      for (let next = 0; next < count; next += 1) {
        if (set & (1 << next)) continue;
        const to = (set | (1 << next)) * count + next;
        const there = here + (between[last]?.[next] ?? 0);
        if (there >= (cost[to] ?? Infinity)) continue;
        cost[to] = there;
        before[to] = last;
      }
    }
  const endOf = (set: number): { readonly last: number; readonly cost: number } => {
    let best = { last: -1, cost: Infinity };
    for (let last = 0; last < count; last += 1) {
      const whole = (cost[set * count + last] ?? Infinity) + (loop ? (toFeed[last] ?? 0) : 0);
      if (set & (1 << last) && whole < best.cost) best = { last, cost: whole };
    }
    return best;
  };
  return dealt(count, most, endOf).map((set) => {
    const path: Place[] = [];
    for (let [left, last] = [set, endOf(set).last]; last >= 0;) {
      const place = places[last];
      if (place) path.unshift(place);
      const earlier = before[left * count + last] ?? -1;
      left &= ~(1 << last);
      last = earlier;
    }
    return path;
  });
}

/** The cheapest way to deal so many panels to the fewest strings; answers the set of each. */
function dealt(count: number, most: number, endOf: (set: number) => { readonly cost: number }): number[] {
  const [sets, strings] = [1 << count, Math.ceil(count / most)];
  const size = new Uint8Array(sets);
  for (let set = 1; set < sets; set += 1) size[set] = (size[set >> 1] ?? 0) + (set & 1);
  const alone = new Float64Array(sets).fill(Infinity);
  for (let set = 1; set < sets; set += 1) if ((size[set] ?? 0) <= most) alone[set] = endOf(set).cost;
  let costs = alone;
  const chosen: Int32Array[] = [Int32Array.from(alone.keys())];
  for (let begun = 2; begun <= strings; begun += 1) {
    const next = new Float64Array(sets).fill(Infinity);
    const own = new Int32Array(sets);
    for (let set = 1; set < sets; set += 1)
      // the string with the first panel of the set is dealt first: no order of strings is tried twice
      for (let part = set; part > 0; part = (part - 1) & set) {
        if (!(part & (set & -set)) || part === set) continue;
        const both = (alone[part] ?? Infinity) + (costs[set ^ part] ?? Infinity);
        if (both >= (next[set] ?? Infinity)) continue;
        next[set] = both;
        own[set] = part;
      }
    costs = next;
    chosen.push(own);
  }
  const parts: number[] = [];
  for (let [left, begun] = [sets - 1, strings]; left > 0 && begun > 0; begun -= 1) {
    const part = chosen[begun - 1]?.[left] ?? left;
    parts.push(part);
    left ^= part;
  }
  return parts;
}

/** Snakes of every pattern, and strings that go out along one side of the wall; the cheapest of them, made better piece by piece. */
function goodStrings(places: readonly Place[], wanted: Wanted): Path[] {
  const costOf = (paths: readonly Path[]) =>
    paths.reduce((sum, path) => sum + cableOf(path, wanted.feed, wanted.loop), 0);
  const candidates = [
    ...patterns.map((pattern) => cut(snake(places, pattern), wanted.most)),
    ...frames.map((frame) => alongSide(places, wanted, frame)),
    ...[0, 1].flatMap((axis) => bothSides(places, wanted, axis)),
  ].map((paths) => paths.map((path) => improved(cheaperEnd(path, wanted), wanted)));
  return candidates.reduce((a, b) => (costOf(b) < costOf(a) ? b : a));
}

/** Ways to look at a wall so that the side on which cables go out is the bottom, and its near end is on the left. */
interface Frame {
  readonly swapped: boolean;
  readonly flipX: boolean;
  readonly flipY: boolean;
}
const frames: readonly Frame[] = [false, true].flatMap((swapped) =>
  [false, true].flatMap((flipX) => [false, true].map((flipY) => ({ swapped, flipX, flipY }))),
);

interface Framed {
  readonly place: Place;
  readonly x: number;
  readonly y: number;
}

/**
 * Every string begins at the near end of one side. It runs out along its own row, up the far end of what is left, and
 * comes down row by row over the columns that it takes, the farthest first; of the last one it takes the top, so that
 * what is left stays in one piece. With a loop the row above its way out is its way home.
 */
function alongSide(places: readonly Place[], { most, loop }: Wanted, { swapped, flipX, flipY }: Frame): Path[] {
  const free = new Set(
    places.map((place): Framed => {
      const [a, b] = swapped ? [place[1], place[0]] : place;
      return { place, x: flipX ? -a : a, y: flipY ? -b : b };
    }),
  );
  const rows = [...new Set([...free].map(({ y }) => y))].sort((a, b) => b - a);
  const strings = Math.ceil(places.length / most);
  return Array.from({ length: strings }, (_, at) => {
    const length = Math.ceil(free.size / (strings - at));
    const [out = 0, home] = loop ? [rows[at * 2], rows[at * 2 + 1]] : [rows[at]];
    const own = taken([...free], { length, out, home });
    for (const one of own) free.delete(one);
    return risen(own, out).map(({ place }) => place);
  });
}

/** From a feed in the middle: some strings to one side, the others to the other one, where the panels of each fill theirs. */
function bothSides(places: readonly Place[], wanted: Wanted, axis: number): Path[][] {
  const { most, feed } = wanted;
  const strings = Math.ceil(places.length / most);
  const middles = [...new Set(places.map((place) => place[axis] ?? 0))].sort(
    (a, b) => Math.abs(a - (feed[axis] ?? 0)) - Math.abs(b - (feed[axis] ?? 0)),
  );
  for (const middle of middles) {
    const [one, other] = [true, false].map((isBefore) =>
      places.filter((place) => (place[axis] ?? 0) < middle === isBefore),
    );
    if (!one || !other || one.length === 0 || other.length === 0) continue;
    if (Math.ceil(one.length / most) + Math.ceil(other.length / most) > strings) continue;
    const swapped = axis === 1;
    return [false, true].map((flipY) => [
      ...alongSide(one, wanted, { swapped, flipX: true, flipY }),
      ...alongSide(other, wanted, { swapped, flipX: false, flipY }),
    ]);
  }
  return [];
}

/** Its two rows, and then column by column from the far end; the rows of strings that come later only where it ends. */
function taken(
  free: readonly Framed[],
  { length, out, home }: { readonly length: number; readonly out: number; readonly home: number | undefined },
): Framed[] {
  const byColumn = free.filter(({ y }) => y < out).sort((a, b) => b.x - a.x || a.y - b.y);
  const below = free.filter(({ y }) => y > out);
  const way = free.filter(({ y }) => y === out);
  const back = byColumn.filter(({ y }) => y === home);
  const inner = byColumn.filter(({ y }) => y !== home);
  return [...below, ...way, ...back, ...inner].slice(0, length);
}

/** Out along a row, up whatever is farthest in each row, and down again from side to side. */
function risen(own: readonly Framed[], out: number): Framed[] {
  const rowOf = groupBy(own, ({ y }) => String(y));
  const way = own.filter(({ y }) => y >= out).sort((a, b) => a.x - b.x || b.y - a.y);
  const above = [...new Set(own.map(({ y }) => y))].filter((y) => y < out).sort((a, b) => b - a);
  const farthest = (y: number) => (rowOf.get(String(y)) ?? []).reduce((a, b) => (b.x > a.x ? b : a));
  const riser = above.map(farthest);
  const rest = above
    .toReversed()
    .flatMap((y, at) =>
      (rowOf.get(String(y)) ?? [])
        .filter((one) => !riser.includes(one))
        .sort((a, b) => (at % 2 === 0 ? b.x - a.x : a.x - b.x)),
    );
  return [...way, ...riser, ...rest];
}

const cut = (path: Path, most: number): Path[] => {
  const strings = Math.ceil(path.length / most);
  // as equal as they can be: whoever has one less has it in reserve
  const lengths = Array.from(
    { length: strings },
    (_, at) => Math.floor(path.length / strings) + (at < path.length % strings ? 1 : 0),
  );
  let from = 0;
  return lengths.map((length) => path.slice(from, (from += length)));
};

const cheaperEnd = (path: Path, { feed, loop }: Wanted): Path => {
  const back = path.toReversed();
  return cableOf(back, feed, loop) < cableOf(path, feed, loop) ? back : path;
};

/** Turns stretches of a string round for as long as that saves cable (two-opt, Croes 1958). */
function improved(path: Path, { feed, loop }: Wanted): Path {
  const own = [...path];
  const at = (index: number): Feed | undefined =>
    index < 0 ? feed : index < own.length ? own[index] : loop ? feed : undefined;
  const between = (a: Feed | undefined, b: Feed | undefined) => (a && b ? apart(a, b) : 0);
  for (let better = true, rounds = 0; better && rounds < 50; rounds += 1) {
    better = false;
    for (let from = 0; from < own.length - 1; from += 1)
      for (let to = from + 1; to < own.length; to += 1) {
        const before = between(at(from - 1), at(from)) + between(at(to), at(to + 1));
        const after = between(at(from - 1), at(to)) + between(at(from), at(to + 1));
        if (after >= before) continue;
        own.splice(from, to - from + 1, ...own.slice(from, to + 1).reverse());
        better = true;
      }
  }
  return own;
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
