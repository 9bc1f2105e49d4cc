import fc from 'fast-check';
import { describe, expect, test } from 'vitest';
import { wallOf } from './wall.test-data.ts';
import { placesOf, type Place } from './size.ts';
import { annealed } from './annealed-strings.ts';
import { cheapestStrings, leastCable, triedWhole } from './cheapest-strings.ts';
import { exactStrings } from './exact-strings.ts';
import { apart, cableOf, drawnOn, patterns, snake, stringCounts, type Feed, type Path } from './strings.ts';
import { casesOf } from '../cases.test-data.ts';

const feed = fc.tuple(fc.integer({ min: -2, max: 6 }), fc.integer({ min: -1, max: 5 }));
const keyOf = (places: readonly Place[]) => places.map(String).sort().join(';');

/** Every order of the panels, each cut everywhere it may be: slow, and without a thought. */
function everyWay(places: readonly Place[], most: number, from: Feed, loop: boolean): number {
  const strings = Math.ceil(places.length / most);
  let best = Infinity;
  const step = (left: readonly Place[], last: Place | undefined, length: number, begun: number, cost: number): void => {
    if (cost >= best) return;
    const home = last && loop ? apart(last, from) : 0;
    if (left.length === 0) best = Math.min(best, cost + home);
    for (const next of left) {
      const rest = left.filter((one) => one !== next);
      if (last && length < most) step(rest, next, length + 1, begun, cost + apart(last, next));
      if (begun < strings) step(rest, next, 1, begun + 1, cost + home + apart(from, next));
    }
  };
  step(places, undefined, 0, 0, 0);
  return best;
}

describe('strings', () => {
  test('a snake goes over every panel once, from the corner that it was told, a step at a time where the wall is whole', () => {
    const wall = wallOf([3, 3, 3, 3]);
    for (const pattern of patterns) {
      const path = snake(placesOf(wall), pattern);
      expect(keyOf(path)).toBe(keyOf(placesOf(wall)));
      const [column, row] = path[0] ?? [];
      expect([column, row]).toEqual([
        pattern.from.endsWith('right') ? 3 : 0,
        pattern.from.startsWith('bottom') ? 2 : 0,
      ]);
      expect(path.slice(1).every((place, at) => apart(path[at] ?? place, place) === 1)).toBe(true);
    }
  });

  test('on small walls the cheapest strings are as cheap as the best of all ways', () => {
    let cases = 0;
    const small = fc.array(fc.integer({ min: 1, max: 3 }), { minLength: 1, maxLength: 3 });
    fc.assert(
      fc.property(small, fc.integer({ min: 1, max: 8 }), feed, fc.boolean(), (heights, most, from, loop) => {
        const wall = wallOf(heights);
        const places = placesOf(wall);
        if (places.length > 7) return;
        cases += 1;
        const plan = cheapestStrings(wall, { most, feed: from, loop });
        expect(plan.cable).toBe(everyWay(places, most, from, loop));
        expect(keyOf(plan.paths.flat())).toBe(keyOf(places));
        expect([plan.paths.length, plan.paths.every((path) => path.length <= most)]).toEqual([
          Math.ceil(places.length / most),
          true,
        ]);
        expect(plan.atLeast).toBeLessThanOrEqual(plan.cable);
      }),
      { numRuns: casesOf(120) },
    );
    expect(cases).toBeGreaterThan(casesOf(120) / 2);
  });

  test('up to twelve panels every way is tried: nothing that a hand draws is cheaper', () => {
    let cases = 0;
    fc.assert(
      fc.property(
        feed,
        fc.integer({ min: 2, max: 12 }),
        fc.boolean(),
        fc.constantFrom(...patterns),
        (from, most, loop, pattern) => {
          cases += 1;
          const wall = wallOf([3, 3, 3, 3]);
          const places = placesOf(wall);
          expect(places.length).toBe(triedWhole);
          const plan = cheapestStrings(wall, { most, feed: from, loop });
          const strings = Math.ceil(places.length / most);
          const drawn = Array.from({ length: strings }, (_, at) =>
            snake(places, pattern).slice(at * most, (at + 1) * most),
          );
          expect(plan.cable).toBeLessThanOrEqual(drawn.reduce((sum, path) => sum + cableOf(path, from, loop), 0));
        },
      ),
      { numRuns: 12 },
    );
    expect(cases).toBe(12);
  }, 60_000);

  test('annealed strings carry what they did, cost no more, and are the cheapest there are in 19 of 20 cases', () => {
    let [cases, cheapest] = [0, 0];
    const wallShape = fc.array(fc.integer({ min: 1, max: 3 }), { minLength: 2, maxLength: 4 });
    fc.assert(
      fc.property(wallShape, fc.integer({ min: 2, max: 12 }), feed, fc.boolean(), (heights, most, from, loop) => {
        const places = placesOf(wallOf(heights));
        const wanted = { most, feed: from, loop };
        const cost = (paths: readonly Path[]) => paths.reduce((sum, path) => sum + cableOf(path, from, loop), 0);
        // as somebody would who never looks: one after the other
        const start = Array.from({ length: Math.ceil(places.length / most) }, (_, at) =>
          places.slice(at * most, (at + 1) * most),
        );
        const paths = annealed(start, wanted, { moves: 20_000, seed: 7 });
        expect(keyOf(paths.flat())).toBe(keyOf(places));
        expect([paths.length, paths.every(({ length }) => length >= 1 && length <= most)]).toEqual([
          start.length,
          true,
        ]);
        expect(cost(paths)).toBeLessThanOrEqual(cost(start));
        cases += 1;
        if (cost(paths) <= cost(exactStrings(places, wanted)) + 1e-9) cheapest += 1;
      }),
      { numRuns: 120 },
    );
    expect(cases).toBe(120);
    expect(cheapest / cases).toBeGreaterThan(0.95);
  }, 60_000);

  test('on 400 panels the plan is within five parts in a hundred of what none goes below', () => {
    const wall = wallOf(Array.from({ length: 20 }, () => 20));
    const all: readonly Feed[] = [
      [-1, 20],
      [-1, -1],
      [9.5, 20],
      [10, 21],
      [9.5, 9.5],
      [4, 10],
    ];
    const some = { minLength: casesOf(all.length), maxLength: casesOf(all.length) };
    const [feeds = []] = fc.sample(fc.shuffledSubarray([...all], some), 1);
    let cases = 0;
    for (const from of feeds)
      for (const most of [50, 80, 100, 200])
        for (const loop of [false, true]) {
          const plan = cheapestStrings(wall, { most, feed: from, loop });
          expect(keyOf(plan.paths.flat())).toBe(keyOf(placesOf(wall)));
          expect(plan.paths.every((path) => path.length <= most)).toBe(true);
          const over = plan.cable / plan.atLeast - 1;
          expect([String(from), most, loop, over <= 0.05]).toEqual([String(from), most, loop, true]);
          cases += 1;
        }
    expect(cases).toBe(8 * feeds.length);
    expect(
      leastCable(
        [
          [0, 0],
          [0, 1],
        ],
        { most: 1, feed: [0, 0], loop: true },
      ),
    ).toBe(2);
  });

  test('a string that is drawn grows panel by panel, and is cut where one is pressed again', () => {
    const pressed: Place[] = [
      [0, 0],
      [0, 1],
      [1, 1],
      [1, 0],
    ];
    const whole = pressed.reduce(drawnOn, { output: 3, path: [] });
    expect(whole).toEqual({ output: 3, path: pressed });
    expect(drawnOn(whole, [1, 1]).path).toEqual([
      [0, 0],
      [0, 1],
    ]);
  });

  test('a count that is short names the panel at which the string ends', () => {
    const path: [number, number][] = [
      [0, 2],
      [0, 1],
      [0, 0],
    ];
    const counts = stringCounts({
      strings: [1, 2, 3].map((output) => ({ output, path })),
      found: [
        { output: 1, panels: 2, version: '', errors: 0 },
        { output: 2, panels: 3, version: '', errors: 0 },
      ],
    });
    expect(counts.map(({ planned, found, missing }) => [planned, found, missing])).toEqual([
      [3, 2, [0, 0]],
      [3, 3, undefined],
      [3, undefined, undefined],
    ]);
  });
});
