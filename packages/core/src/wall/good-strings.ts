import { groupBy } from '../show/index.ts';
import { annealed } from './annealed-strings.ts';
import type { Place } from './size.ts';
import { cableOf, patterns, snake, type Path, type Wanted } from './strings.ts';

/**
 * Snakes of every pattern, strings that go out along one side of the wall, and a wall divided around its feed; the
 * cheapest of them, made better step by step until it is as cheap as `enough`.
 */
export function goodStrings(places: readonly Place[], wanted: Wanted, enough: number): Path[] {
  const strings = Math.ceil(places.length / wanted.most);
  const candidates = [
    ...patterns.map((pattern) => cut(snake(places, pattern), wanted.most)),
    ...frames.map((frame) => alongSide(places, wanted, frame)),
    divided(places, strings, wanted, { cuts: cutsFor(strings), depth: 0 }),
  ]
    .map((paths) => paths.map((path) => cheaperEnd(path, wanted)))
    .sort((a, b) => costOf(a, wanted) - costOf(b, wanted));
  const moves = Math.min(movesAtMost, places.length * movesPerPanel);
  let [best = []] = candidates;
  for (let seed = 1; seed <= triesAtMost && costOf(best, wanted) > enough * goodEnough; seed += 1) {
    const [from = []] = candidates.slice((seed - 1) % 2);
    const other = annealed(from, wanted, { moves, seed, enough });
    if (costOf(other, wanted) < costOf(best, wanted)) best = other;
  }
  return best;
}

/** In how many places the whole wall is cut, each time in two, is a matter of time: with more strings each takes longer. */
const cutsFor = (strings: number): number => Math.max(1, Math.floor(12 / strings));

/** On a large wall each try takes some 0.2 s. */
const [movesPerPanel, movesAtMost] = [3000, 1_200_000];
/** Whoever is not that near to what none goes below tries again. */
const [triesAtMost, goodEnough] = [3, 1.03];

const costOf = (paths: readonly Path[], { feed, loop }: Wanted): number =>
  paths.reduce((sum, path) => sum + cableOf(path, feed, loop), 0);

interface Tries {
  readonly cuts: number;
  /** So often it was cut in two before. */
  readonly depth: number;
}

/** So often a piece is cut across and along, to see which is better; after that across its longer side. */
const triedBothWays = 3;

function longerAxis(places: readonly Place[]): number {
  const extent = (axis: number) => new Set(places.map((place) => place[axis])).size;
  return extent(0) >= extent(1) ? 0 : 1;
}

/**
 * A wall cut in two beside its feed, and each half again, as long as that is cheaper than strings that go out along a
 * side of it: where the feed is inside the wall, each of its strings begins near it.
 */
function divided(places: readonly Place[], strings: number, wanted: Wanted, { cuts, depth }: Tries): Path[] {
  const own = { ...wanted, most: Math.ceil(places.length / strings) };
  const whole = [
    ...frames.map((frame) => alongSide(places, own, frame)),
    ...(strings === 1 ? patterns.map((pattern) => [snake(places, pattern)]) : []),
  ].map((paths) => paths.map((path) => cheaperEnd(path, own)));
  const axes = depth < triedBothWays ? [0, 1] : [longerAxis(places)];
  const halves = strings === 1 ? [] : axes.flatMap((axis) => halved(places, strings, wanted, { axis, cuts, depth }));
  return [...whole, ...halves].reduce((a, b) => (costOf(b, wanted) < costOf(a, wanted) ? b : a));
}

function halved(
  places: readonly Place[],
  strings: number,
  wanted: Wanted,
  { axis, cuts, depth }: Tries & { readonly axis: number },
): Path[][] {
  const { feed } = wanted;
  const across = 1 - axis;
  const inOrder = places.toSorted((a, b) => (a[axis] ?? 0) - (b[axis] ?? 0) || (a[across] ?? 0) - (b[across] ?? 0));
  const shareOf = (some: number) => Math.floor((places.length * some) / strings);
  const awayAt = (some: number) => Math.abs((inOrder[shareOf(some)]?.[axis] ?? 0) - 0.5 - (feed[axis] ?? 0));
  return Array.from({ length: strings - 1 }, (_, at) => at + 1)
    .sort((a, b) => awayAt(a) - awayAt(b))
    .slice(0, cuts)
    .map((some) => [
      ...divided(inOrder.slice(0, shareOf(some)), some, wanted, { cuts: 1, depth: depth + 1 }),
      ...divided(inOrder.slice(shareOf(some)), strings - some, wanted, { cuts: 1, depth: depth + 1 }),
    ]);
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
