import fc from 'fast-check';
import { describe, expect, test } from 'vitest';
import type { Transfer } from '../show/index.ts';
import { endToEnd, forArgument, positionFor, reached, takesOver, transferred } from './transfer.ts';

const plain: Transfer = {
  ...{ fromMin: 0, fromMax: 127, toMin: -90, toMax: 90, curve: 'straight', points: [] },
  ...{ step: null, dead: 0, low: null, high: null, pickUp: 'jump' },
};
const angle = { name: 'angle', type: 'f', min: -90, max: 90, example: 0 } as const;

/** Thousandths of a number as a whole one: what follows is exact. */
const exact = (value: number): bigint => BigInt(Math.round(value * 1000));

/**
 * The same by a model that shares no formula: it walks a table of 1,000 places along the control's way and takes the two
 * that a value lies between, in whole thousandths.
 */
function byTable({ fromMin, fromMax, toMin, toMax }: Transfer, value: number): number {
  const [a, b, c, d, v] = [fromMin, fromMax, toMin, toMax, value].map(exact) as [
    bigint,
    bigint,
    bigint,
    bigint,
    bigint,
  ];
  const [low, high] = a < b ? [a, b] : [b, a];
  const held = v < low ? low : v > high ? high : v;
  const passed = a < b ? held - a : a - held;
  const way = high - low;
  return Number(c * (way - passed) * 1_000_000n + d * passed * 1_000_000n) / Number(way) / 1e9;
}

describe('a value of a control becomes one of a parameter', () => {
  test('as a weighing of both ends in whole numbers says, in whichever direction either range goes', () => {
    const tenths = fc.integer({ min: -20_000, max: 20_000 }).map((n) => n / 10);
    let ran = 0;
    fc.assert(
      fc.property(tenths, tenths, tenths, tenths, tenths, (fromMin, fromMax, toMin, toMax, value) => {
        fc.pre(fromMin !== fromMax);
        ran += 1;
        const transfer = { ...plain, fromMin, fromMax, toMin, toMax };
        expect(transferred(transfer, value)).toBeCloseTo(byTable(transfer, value), 6);
        expect([transferred(transfer, fromMin), transferred(transfer, fromMax)]).toEqual([toMin, toMax]);
      }),
      { numRuns: 1000 },
    );
    expect(ran).toBeGreaterThanOrEqual(1000);
  });

  test('steps, limits, dead ends and a table keep their word for every value', () => {
    const share = fc.integer({ min: 1, max: 99 }).map((n) => n / 100);
    const cases = fc.record({
      value: fc.integer({ min: -50, max: 200 }),
      step: fc.constantFrom(null, 0.1, 0.5, 3, 7),
      dead: fc.constantFrom(0, 0.06, 0.2, 0.45),
      low: fc.constantFrom(null, -45, 0),
      high: fc.constantFrom(null, 0, 60),
      points: fc.uniqueArray(share, { minLength: 1, maxLength: 6 }),
      reversed: fc.boolean(),
    });
    const met = { steps: 0, dead: 0, limited: 0, table: 0 };
    fc.assert(
      fc.property(cases, ({ value, step, dead, low, high, points, reversed }) => {
        const table = [0, ...points.sort((a, b) => a - b), 1].map((at) => ({ at, to: at * at }));
        const curve = points.length > 2 ? 'table' : 'straight';
        const ends = reversed ? { toMin: 90, toMax: -90 } : {};
        const transfer: Transfer = { ...plain, ...ends, step, dead, low, high, curve, points: table };
        const out = transferred(transfer, value);
        expect(out).toBeGreaterThanOrEqual(low ?? -90);
        expect(out).toBeLessThanOrEqual(high ?? 90);
        const free = transferred({ ...transfer, low: null, high: null }, value);
        if (step !== null && Math.abs(free) !== 90) {
          const steps = (free - transfer.toMin) / step;
          expect(Math.abs(steps - Math.round(steps))).toBeLessThan(1e-6);
          met.steps += 1;
        }
        if (dead > 0 && value <= 127 * dead) {
          expect(free).toBe(transfer.toMin);
          met.dead += 1;
        }
        if (curve === 'table') met.table += 1;
        if (free !== out) met.limited += 1;
        // a control that moves on never moves the parameter back
        const further = transferred(transfer, value + 5);
        expect(reversed ? out - further : further - out).toBeGreaterThanOrEqual(-1e-9);
      }),
      { numRuns: 1500 },
    );
    expect(Math.min(...Object.values(met))).toBeGreaterThan(50);
  });

  test('a table is read between its points: half way to a point is half way to its value', () => {
    const points = [
      { at: 0, to: 0 },
      { at: 0.5, to: 0.1 },
      { at: 1, to: 1 },
    ];
    const bent: Transfer = { ...plain, fromMax: 100, toMin: 0, toMax: 100, curve: 'table', points };
    expect([0, 25, 50, 75, 100].map((value) => Number(transferred(bent, value).toFixed(9)))).toEqual([
      0, 5, 10, 55, 100,
    ]);
  });

  test('a motor fader goes where its parameter is', () => {
    for (const wanted of [-90, -12.2, 0, 45, 90])
      expect(transferred(plain, positionFor(plain, wanted))).toBeCloseTo(wanted, 2);
  });

  test('whoever waits for its parameter takes it over on it or past it, and not on either side', () => {
    expect([
      takesOver(10, 20, 15),
      takesOver(20, 10, 15),
      takesOver(10, 14, 15),
      takesOver(16, 20, 15),
      takesOver(undefined, 14, 15),
      takesOver(undefined, 15, 15),
    ]).toEqual([true, true, false, false, false, true]);
  });
});

describe('how much of a parameter a control reaches (C51)', () => {
  test('as it is, scaled, and one that sends too much', () => {
    const fader = { least: 0, greatest: 1 };
    expect(reached(null, fader, angle)).toMatchObject({ least: 0, greatest: 1, share: 1 / 180, beyond: false });
    const scaled = endToEnd(fader, angle) ?? expect.fail('no ends');
    expect(reached(scaled, fader, angle)).toMatchObject({ least: -90, middle: 0, greatest: 90, share: 1 });
    expect(reached(null, { least: 0, greatest: 127 }, angle)).toMatchObject({ share: 0.5, beyond: true });
    expect(endToEnd({ least: 3, greatest: 3 }, angle)).toBeUndefined();
    expect(reached(null, fader, { name: 'free', type: 'f', example: 1 }).share).toBeNull();
  });

  test('a table that goes further between the end stops than at them reaches that too', () => {
    const points = [
      { at: 0, to: 0 },
      { at: 0.5, to: 1 },
      { at: 1, to: 0 },
    ];
    const there = reached({ ...plain, curve: 'table', points }, { least: 0, greatest: 127 }, angle);
    expect(there.share).toBe(1);
  });

  test('whole numbers where only those are taken', () => {
    expect(forArgument({ name: 'n', type: 'i', example: 1 }, 12.6)).toBe(13);
    expect(forArgument(angle, 12.6)).toBe(12.6);
  });
});
