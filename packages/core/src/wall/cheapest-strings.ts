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
