import type { Wall } from '../show/index.ts';
import { exactStrings } from './exact-strings.ts';
import { goodStrings } from './good-strings.ts';
import { placesOf, type Place } from './size.ts';
import { apart, cableOf, type Path, type Wanted } from './strings.ts';

export interface StringPlan {
  readonly paths: readonly Path[];
  /** Cable in panels, and less than which no plan needs. */
  readonly cable: number;
  readonly atLeast: number;
}

/** Up to so many panels every way there is is tried. */
export const triedWhole = 12;

/** The least cable that brings data to every panel, no string over its limit: the fewest strings, then the least cable. */
export function cheapestStrings(wall: Pick<Wall, 'columns'>, wanted: Wanted): StringPlan {
  const places = placesOf(wall);
  const atLeast = leastCable(places, wanted);
  const paths = places.length <= triedWhole ? exactStrings(places, wanted) : goodStrings(places, wanted, atLeast);
  const cable = paths.reduce((sum, path) => sum + cableOf(path, wanted.feed, wanted.loop), 0);
  return { paths, cable, atLeast };
}

/**
 * No plan does with less. Every panel but the first of each string is reached from another one, a panel away at least;
 * the first ones from the feed, and with a loop the last ones go back there. Panels at the same distance from the feed
 * lie on a ring around it. Whoever has to come farther out begins there, or takes a panel of the ring on its way, of
 * which there are only so many, or leaps over it, which costs as much more as beginning one farther out. With a loop it
 * has to come home as well.
 */
export function leastCable(places: readonly Place[], wanted: Wanted): number {
  const { most, feed, loop } = wanted;
  const strings = Math.ceil(places.length / most);
  const ends = strings * (loop ? 2 : 1);
  // a panel is both ends of its string only where it is alone in it, for which the others have to leave room
  const isAlone = loop && strings * most - places.length >= most - 1;
  const rings = ringsAround(places, feed);
  const areWhole = isWhole(rings);
  // how many begin beyond a ring, ring by ring: each of them pays for the way to the next one
  let [inside, before, sum, ring] = [0, 0, 0, 0];
  for (const { distance, panels } of rings) {
    const beyond = Math.ceil((places.length - inside) / most) * (loop ? 2 : 1);
    const isFull = ends - inside * (isAlone ? 2 : 1);
    sum += (distance - before) * Math.max(0, isFull, areWhole ? beyond - ring : 0);
    [inside, before, ring] = [inside + panels, distance, panels];
  }
  return places.length - strings + sum;
}

interface Ring {
  readonly distance: number;
  readonly panels: number;
}

function ringsAround(places: readonly Place[], feed: Wanted['feed']): Ring[] {
  const counts = new Map<number, number>();
  for (const place of places) counts.set(apart(feed, place), (counts.get(apart(feed, place)) ?? 0) + 1);
  return [...counts.entries()].sort(([a], [b]) => a - b).map(([distance, panels]) => ({ distance, panels }));
}

/** From ring to ring it is one panel: no step to a neighbour leaves one out. */
const isWhole = (rings: readonly Ring[]): boolean =>
  rings.every(({ distance }, at) => at === 0 || Math.abs(distance - (rings[at - 1]?.distance ?? 0) - 1) < 1e-9);
