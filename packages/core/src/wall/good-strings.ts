import { groupBy } from '../show/index.ts';
import type { Place } from './size.ts';
import { apart, cableOf, patterns, snake, type Feed, type Path, type Wanted } from './strings.ts';

/** Snakes of every pattern, and strings that go out along one side of the wall; the cheapest of them, made better piece by piece. */
export function goodStrings(places: readonly Place[], wanted: Wanted): Path[] {
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
