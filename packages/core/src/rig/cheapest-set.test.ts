import fc from 'fast-check';
import { expect, test } from 'vitest';
import { cheapestSet, type Offer } from './cheapest-set.ts';

/** Tries every number of every offer: slow, and certain. */
function exhaustive(wanted: number, offers: readonly Offer[]): number {
  const [first, ...rest] = offers;
  if (wanted <= 0) return 0;
  if (!first) return Infinity;
  let best = Infinity;
  for (let count = 0; count <= Math.ceil(wanted / first.sources); count += 1)
    best = Math.min(best, count * first.price + exhaustive(wanted - count * first.sources, rest));
  return best;
}

const offer = fc.record({ sources: fc.integer({ min: 1, max: 9 }), price: fc.integer({ min: 0, max: 50 }) });

test('no set is cheaper than the one found, and it takes all that is wanted', () => {
  fc.assert(
    fc.property(fc.integer({ min: 1, max: 20 }), fc.array(offer, { minLength: 1, maxLength: 3 }), (wanted, plain) => {
      const offers = plain.map((item, at) => ({ ...item, name: `box ${at}` }));
      const set = cheapestSet(wanted, offers) ?? expect.fail('there is an offer');
      const of = new Map(offers.map((item) => [item.name, item]));
      const sum = (value: (item: Offer) => number) =>
        set.counts.reduce((total, { name, count }) => total + count * value(of.get(name) ?? expect.fail(name)), 0);
      expect(set.cost).toBe(exhaustive(wanted, offers));
      expect([sum(({ price }) => price), sum(({ sources }) => sources) >= wanted]).toEqual([set.cost, true]);
    }),
  );
});

test('what is there already is used first, as few of it as lead to the least cost', () => {
  let runs = 0;
  const idle = fc.array(fc.integer({ min: 1, max: 6 }), { maxLength: 4 });
  fc.assert(
    fc.property(fc.integer({ min: 1, max: 16 }), fc.array(offer, { maxLength: 2 }), idle, (wanted, plain, rooms) => {
      runs += 1;
      const offers = plain.map((item, at) => ({ ...item, name: `box ${at}` }));
      const there = rooms.map((sources, at) => ({ name: `idle ${at}`, sources }));
      const set = cheapestSet(wanted, offers, there);
      // every choice of what is there, and every number of what can be bought
      const ways = Array.from({ length: 2 ** rooms.length }, (_, choice) => {
        const used = rooms.filter((_room, at) => choice & (1 << at));
        const left = wanted - used.reduce((sum, room) => sum + room, 0);
        return { cost: exhaustive(left, offers), units: used.length };
      });
      const least = Math.min(...ways.map(({ cost }) => cost));
      const fewest = Math.min(...ways.filter(({ cost }) => cost === least).map(({ units }) => units));
      expect(set && [set.cost, set.idle.length]).toEqual(least === Infinity ? undefined : [least, fewest]);
    }),
    { numRuns: 300 },
  );
  expect(runs).toBe(300);
});

test('nothing to choose from, or nothing wanted, is no set', () => {
  expect(cheapestSet(3, [])).toBeUndefined();
  expect(cheapestSet(3, [{ name: 'blind', sources: 0, price: 1 }])).toBeUndefined();
  expect(cheapestSet(0, [{ name: 'box', sources: 2, price: 1 }])).toBeUndefined();
});
