import fc from 'fast-check';
import { expect, test } from 'vitest';
import { fewestMoves, type AdapterAt, type Job, type Need } from './moves.ts';

const subnets = ['10.1.0.0/24', '10.2.0.0/24', '10.3.0.0/24', '10.4.0.0/24'];
const segments = ['quay', 'booth'];

const need = fc.record({
  segment: fc.constantFrom(...segments),
  subnet: fc.oneof({ weight: 4, arbitrary: fc.constantFrom(...subnets) }, { weight: 1, arbitrary: fc.constant(null) }),
});
/** Up to eight units: each is set where it is as delivered, then confirmed where it is planned; some wait for others. */
const units = fc.array(
  fc.record({
    now: fc.array(need, { maxLength: 2 }),
    then: fc.array(need, { maxLength: 1 }),
    waits: fc.option(fc.nat(6)),
  }),
  { minLength: 1, maxLength: 8 },
);
const computer = fc.array(
  fc.record({
    segment: fc.constantFrom(...segments, null),
    subnets: fc.subarray(subnets, { maxLength: 1 }),
    holds: fc.constantFrom(1, 1, 2, 3),
  }),
  { minLength: 1, maxLength: 2 },
);

function jobsOf(list: readonly { now: Need[]; then: Need[]; waits: number | null }[]): Job[] {
  return list.flatMap(({ now, then, waits }, at) => {
    // only ahead, so that nothing waits for itself
    const waitsFor = waits !== null && waits < at ? [waits * 2] : [];
    return [
      { needs: now, after: waitsFor },
      { needs: then, after: [at * 2] },
    ];
  });
}

interface Tried {
  readonly done: ReadonlySet<number>;
  readonly adapters: readonly AdapterAt[];
  readonly changes: number;
  readonly cables: number;
}

/** Everything that may be done at once is done; nothing is shared with what is tested. */
function follow(jobs: readonly Job[], { done, adapters, ...cost }: Tried): Tried {
  const all = new Set(done);
  for (let before = -1; before !== all.size;) {
    before = all.size;
    jobs.forEach(({ needs, after }, at) => {
      const isHere = ({ segment, subnet }: Need) =>
        adapters.some((one) => one.segment === segment && (subnet === null || one.subnets.includes(subnet)));
      if (after.every((one) => all.has(one)) && (needs.length === 0 || needs.some(isHere))) all.add(at);
    });
  }
  return { ...cost, adapters, done: all };
}

/** Every place that the computer may go to next, in any of the subnets that anybody needs at any time. */
function everyMove({ adapters, ...from }: Tried, wanted: readonly string[]): Tried[] {
  const result: Tried[] = [];
  adapters.forEach((own, at) => {
    for (const segment of segments)
      for (const subnet of [null, ...wanted]) {
        const isNew = subnet !== null && !own.subnets.includes(subnet);
        const dropped = isNew && own.subnets.length >= own.holds ? own.subnets : [undefined];
        for (const drop of dropped) {
          const kept = own.subnets.filter((one) => one !== drop);
          const next = { ...own, segment, subnets: isNew ? [...kept, subnet] : kept };
          const isTaken = adapters.some((one, n) => n !== at && subnet !== null && one.subnets.includes(subnet));
          const isChange = isNew && (drop !== undefined || own.subnets.length === 0);
          result.push({
            ...from,
            adapters: adapters.map((one, n) =>
              n === at ? next : { ...one, subnets: one.subnets.filter((held) => !isNew || held !== subnet) },
            ),
            changes: from.changes + Number(isChange) + Number(isNew && isTaken),
            cables: from.cables + Number(segment !== own.segment),
          });
        }
      }
  });
  return result;
}

/** Breadth first by price, over every place: slow, and certain. */
function bruteForce(jobs: readonly Job[], adapters: readonly AdapterAt[]): readonly [number, number] {
  const price = ({ changes, cables }: Tried) => changes * 100 + cables;
  const keyOf = ({ done, adapters: at }: Tried) =>
    `${[...done].sort((a, b) => a - b).join(',')} ${at.map((one) => `${one.segment}:${[...one.subnets].sort().join()}`).join('/')}`;
  const wanted = [...new Set(jobs.flatMap(({ needs }) => needs.flatMap(({ subnet }) => subnet ?? [])))];
  const seen = new Set<string>();
  const byPrice: Tried[][] = [];
  const put = (tried: Tried) => void (byPrice[price(tried)] ??= []).push(tried);
  put(follow(jobs, { done: new Set(), adapters, changes: 0, cables: 0 }));
  // nothing gets cheaper on its way: the first that is complete is the cheapest
  for (let at = 0; at < byPrice.length; at += 1)
    for (let next = byPrice[at]?.pop(); next; next = byPrice[at]?.pop()) {
      if (next.done.size === jobs.length) return [next.changes, next.cables];
      const key = keyOf(next);
      if (seen.has(key)) continue;
      seen.add(key);
      for (const move of everyMove(next, wanted)) put(follow(jobs, move));
    }
  throw new Error('no way');
}

// found by the next test: an adapter went to a subnet only to take it off the other, which had room for nothing then
test('room on one adapter is not made for nothing by going to its subnet with another', () => {
  const at = (n: number, segment = 'quay'): Job => ({ needs: [{ segment, subnet: `10.${n}.0.0/24` }], after: [] });
  const adapters = [
    { segment: 'quay', subnets: [], holds: 2 },
    { segment: null, subnets: [], holds: 2 },
  ];
  const jobs = [at(1), at(4), at(2, 'booth'), at(3)];
  const { changes, cables } = fewestMoves(jobs, adapters);
  expect([changes, cables]).toEqual(bruteForce(jobs, adapters));
});

test('with up to eight units in four subnets no order has fewer changes, or as many and fewer moves of cables', () => {
  let compared = 0;
  fc.assert(
    fc.property(units, computer, (list, adapters) => {
      const jobs = jobsOf(list);
      const found = fewestMoves(jobs, adapters);
      expect(found.exact).toBe(true);
      expect(found.stuck).toEqual([]);
      expect([found.changes, found.cables]).toEqual(bruteForce(jobs, adapters));
      compared += 1;
    }),
    { numRuns: 100 },
  );
  expect(compared).toBe(100);
});

test('every job is done once, after those that it waits for, where the computer is then', () => {
  fc.assert(
    fc.property(units, computer, (list, adapters) => {
      const jobs = jobsOf(list);
      const { before, moves } = fewestMoves(jobs, adapters);
      const at = adapters.map((one) => ({ ...one, subnets: [...one.subnets] }));
      const done: number[] = [];
      const take = (some: readonly number[]) => {
        for (const job of some) {
          const { needs = [], after = [] } = jobs[job] ?? {};
          expect(after.every((one) => done.includes(one))).toBe(true);
          const isHere = ({ segment, subnet }: Need) =>
            at.some((one) => one.segment === segment && (subnet === null || one.subnets.includes(subnet)));
          expect(needs.length === 0 || needs.some(isHere)).toBe(true);
          done.push(job);
        }
      };
      take(before);
      for (const { adapter, need: goal, replaces, jobs: here } of moves) {
        const own = at[adapter] ?? expect.fail('no such adapter');
        own.segment = goal.segment;
        if (replaces !== null) own.subnets = own.subnets.filter((one) => one !== replaces);
        if (goal.subnet !== null && !own.subnets.includes(goal.subnet)) {
          for (const other of at) other.subnets = other.subnets.filter((one) => one !== goal.subnet);
          own.subnets.push(goal.subnet);
        }
        expect(own.subnets.length).toBeLessThanOrEqual(own.holds);
        take(here);
      }
      expect(done.sort((a, b) => a - b)).toEqual(jobs.map((_, job) => job));
    }),
    { numRuns: 300 },
  );
});

test('five hundred units in twelve subnets: no more than a tenth above the bound', () => {
  const nets = Array.from({ length: 12 }, (_, at) => `10.${at}.0.0/24`);
  const jobs = Array.from({ length: 500 }, (_, at): Job[] => [
    { needs: [{ segment: 'quay', subnet: nets[at % 9] ?? null }], after: at % 7 === 6 ? [(at - 3) * 2] : [] },
    { needs: [{ segment: 'quay', subnet: nets[9 + (at % 3)] ?? null }], after: [at * 2] },
  ]).flat();
  const { changes, bound, stuck } = fewestMoves(jobs, [{ segment: 'quay', subnets: [nets[11] ?? ''], holds: 1 }]);
  expect(stuck).toEqual([]);
  expect(changes).toBeLessThanOrEqual(bound * 1.1);
  expect(changes).toBeGreaterThanOrEqual(12);
});

test('what needs each other is told as what nobody can do, and the rest is done', () => {
  const jobs: Job[] = [
    { needs: [], after: [1] },
    { needs: [], after: [0] },
    { needs: [{ segment: 'quay', subnet: null }], after: [] },
  ];
  const { stuck, moves, before } = fewestMoves(jobs, [{ segment: 'quay', subnets: [], holds: 1 }]);
  expect([stuck, moves, before]).toEqual([[0, 1], [], [2]]);
});

test('while a cable is led to where another was pulled out, nobody else hears what that one led to', () => {
  const jobs: Job[] = [
    { needs: [{ segment: 'alone', subnet: null }], after: [] },
    { needs: [{ segment: 'quay', subnet: null }], after: [0] },
  ];
  const at = (cut: string | undefined): AdapterAt[] => [
    { segment: 'quay', subnets: [], holds: 1, cuts: (where) => (where === 'alone' ? cut : undefined) },
    { segment: 'quay', subnets: [], holds: 1, goes: () => false },
  ];
  expect([undefined, 'quay'].map((cut) => fewestMoves(jobs, at(cut)).cables)).toEqual([1, 2]);
});
