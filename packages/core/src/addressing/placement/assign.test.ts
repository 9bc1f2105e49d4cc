import fc from 'fast-check';
import { expect, test } from 'vitest';
import { assign, costOf, totalCost, type Cost } from './assign.ts';
import type { Domain, Mover } from './task.ts';

/** Small tasks in which everything competes: two overlapping domains, wishes, clashes and figures from elsewhere. */
const base = 256 * 4;
const anyTask = fc
  .record({
    a: fc.uniqueArray(fc.integer({ min: 1, max: 6 }), { maxLength: 4 }),
    b: fc.uniqueArray(fc.integer({ min: 3, max: 8 }), { maxLength: 4 }),
    movers: fc.array(
      fc.record({
        inA: fc.boolean(),
        own: fc.option(fc.integer({ min: 1, max: 8 }), { nil: undefined }),
        byUnit: fc.option(fc.integer({ min: 1, max: 8 }), { nil: undefined }),
        figures: fc.uniqueArray(fc.integer({ min: 1, max: 8 }), { maxLength: 2 }),
      }),
      { minLength: 1, maxLength: 5 },
    ),
  })
  .map(({ a, b, movers }) => {
    const domain = (key: string, hosts: number[]): Domain => ({
      key,
      hosts: hosts.map((n) => base + n).sort((x, y) => x - y),
    });
    const [inA, inB] = [domain('a', a), domain('b', b)];
    return movers.map(({ inA: first, own, byUnit, figures }): Mover => {
      const place = (n: number | undefined) => (n === undefined ? undefined : base + n);
      const mine = first ? inA : inB;
      const wished = place(byUnit);
      return {
        item: undefined as never,
        domain: mine,
        own: place(own),
        byUnit: wished,
        figures: new Set(figures),
      };
    });
  });

/** Every assignment there is, tried out: shares nothing with the search but the price of one place. */
function cheapestOfAll(movers: readonly Mover[]): number[] {
  let best: number[] | undefined;
  const price = (ips: readonly (number | undefined)[]): number[] => {
    const { unplaced, moved, offNumber, offFigure } = totalCost(movers, ips);
    return [unplaced, moved, offNumber, offFigure];
  };
  const go = (at: number, ips: (number | undefined)[]): void => {
    const mover = movers[at];
    if (!mover) {
      const total = price(ips);
      if (!best || isLess(total, best)) best = total;
      return;
    }
    const places = new Set([...mover.domain.hosts, ...(mover.own === undefined ? [] : [mover.own])]);
    for (const ip of places) if (!ips.includes(ip)) go(at + 1, [...ips, ip]);
    go(at + 1, [...ips, undefined]);
  };
  go(0, []);
  return best ?? [];
}

const isLess = (a: readonly number[], b: readonly number[]): boolean => {
  const at = a.findIndex((value, n) => value !== b[n]);
  return at >= 0 && (a[at] ?? 0) < (b[at] ?? 0);
};

test('the assignment is the cheapest that there is, by trying all of them', () => {
  fc.assert(
    fc.property(anyTask, (movers) => {
      const { ips } = assign({ movers });
      const got: Cost = totalCost(movers, ips);
      expect([got.unplaced, got.moved, got.offNumber, got.offFigure]).toEqual(cheapestOfAll(movers));
      const given = ips.filter((ip) => ip !== undefined);
      expect(new Set(given).size).toBe(given.length);
      movers.forEach((mover, at) => {
        const ip = ips[at];
        if (ip !== undefined) expect(ip === mover.own || mover.domain.hosts.includes(ip)).toBe(true);
      });
      expect(assign({ movers }).ips).toEqual(ips);
    }),
    { numRuns: 4000 },
  );
});

test('whoever finds no room is in a crowd that has fewer places than members', () => {
  fc.assert(
    fc.property(anyTask, (movers) => {
      const { ips, crowds } = assign({ movers });
      movers.forEach((mover, at) => {
        const own = crowds.filter((crowd) => crowd.some((other) => movers[other]?.domain.key === mover.domain.key));
        if (ips[at] === undefined) expect(own.length).toBeGreaterThan(0);
      });
      for (const crowd of crowds) {
        const places = new Set(
          crowd.flatMap((at) => [
            ...(movers[at]?.domain.hosts ?? []),
            ...(movers[at]?.own === undefined ? [] : [movers[at].own]),
          ]),
        );
        expect(places.size).toBeLessThan(crowd.length);
      }
    }),
    { numRuns: 1000 },
  );
});

test('one step of the objective outweighs all steps below it', () => {
  const domain: Domain = { key: 'a', hosts: [base + 1, base + 2] };
  const mover = (own?: number, byUnit?: number): Mover => ({
    item: undefined as never,
    domain,
    own,
    byUnit,
    figures: new Set([9]),
  });
  const most = 65_534;
  expect(costOf(mover(base + 2), base + 1)).toBeGreaterThan(most * costOf(mover(undefined, base + 2), base + 1));
  expect(costOf(mover(undefined, base + 2), base + 1) - costOf(mover(), base + 1)).toBeGreaterThan(
    most * costOf(mover(), base + 1),
  );
});
