import fc from 'fast-check';
import { expect, test } from 'vitest';
import { networkPurposes } from '../show/index.ts';
import { address, adapter, device, network, showOf } from '../show/sample-show.test-data.ts';
import { addressingFacts } from './facts.ts';
import { obstacleAt } from './free-hosts.ts';
import { freeRuns, lowestHosts, sizeOfRanges, usableRanges, without, type Range } from './free-ranges.ts';
import { formatIp, hostRange, mustIp, subnetOf } from './ipv4.ts';

const base = mustIp('10.1.0.0');
const host = fc.integer({ min: 0, max: 70 }).map((n) => base + n);
const range = fc.tuple(host, host).map(([a, b]): Range => ({ from: Math.min(a, b), to: Math.max(a, b) }));
const all = (ranges: readonly Range[]): number[] =>
  ranges.flatMap(({ from, to }) => Array.from({ length: to - from + 1 }, (_, at) => from + at));

test('what is usable, free and lowest in ranges is what asking every host says', () => {
  let runs = 0;
  let some = 0;
  fc.assert(
    fc.property(
      fc.record({
        prefix: fc.constantFrom(26, 27, 28),
        gateway: fc.option(host),
        pool: fc.option(range),
        kept: fc.array(range, { maxLength: 2 }),
        granted: fc.array(range, { maxLength: 2 }),
        taken: fc.uniqueArray(host, { maxLength: 6 }),
        within: range,
        step: fc.constantFrom(1, 2, 8),
        offset: fc.nat(20),
      }),
      ({ prefix, gateway, pool, kept, granted, taken, within, step, offset }) => {
        runs += 1;
        const show = showOf({
          networks: [
            network({
              network: formatIp(base),
              prefix,
              carries: networkPurposes[0],
              gateway: gateway === null ? null : formatIp(gateway),
              poolFrom: pool && formatIp(pool.from),
              poolTo: pool && formatIp(pool.to),
              granted: granted.map(({ from, to }) => ({ first: formatIp(from), last: formatIp(to) })),
            }),
          ],
          blocks: kept.map(({ from, to }, at) => ({
            id: `b${at}`,
            networkId: network().id,
            label: `b${at}`,
            kinds: [],
            first: formatIp(from),
            last: formatIp(to),
            use: 'keep_free' as const,
          })),
          devices: taken.map((_, at) => device(`d${at}`, 'host')),
          interfaces: taken.map((_, at) => adapter(`d${at}`)),
          addresses: taken.map((ip, at) => address(`d${at}`, formatIp(ip))),
        });
        const facts = addressingFacts(show);
        const [on] = facts.networks;
        if (!on) throw new Error('no network');
        const asked = all([within]).map((ip) => [ip, obstacleAt(facts, on, ip)] as const);
        const usable = usableRanges(on, within);
        const expected = asked.flatMap(([ip, why]) => (why === undefined || why === 'taken' ? [ip] : []));
        expect(all(usable)).toEqual(expected);
        expect(sizeOfRanges(usable)).toBe(expected.length);
        const free = asked.flatMap(([ip, why]) => (why === undefined ? [ip] : []));
        expect(all(freeRuns(facts, usable))).toEqual(free);
        const fits = (ip: number) => !facts.byIp.has(ip);
        const stepped = free.filter((ip) => (ip - offset) % step === 0);
        expect(lowestHosts(usable, 3, fits, { step, offset })).toEqual(stepped.slice(0, 3));
        expect(lowestHosts(usable, 5, fits)).toEqual(free.slice(0, 5));
        some += Number(free.length > 0);
      },
    ),
    { numRuns: 500 },
  );
  expect([runs, some > 100]).toEqual([500, true]);
});

test('cutting one range out of others leaves every other host once', () => {
  fc.assert(
    fc.property(fc.array(range, { maxLength: 4 }), range, (ranges, cut) => {
      expect(all(without(ranges, cut))).toEqual(all(ranges).filter((ip) => ip < cut.from || ip > cut.to));
      expect(without(ranges, { from: cut.to + 1, to: cut.from })).toEqual(ranges);
    }),
  );
  const { first, last } = hostRange(subnetOf(base, 31));
  expect([first, last]).toEqual([base, base + 1]);
});
