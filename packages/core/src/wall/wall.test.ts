import fc from 'fast-check';
import { describe, expect, test } from 'vitest';
import { panelOf, wallOf } from './wall.test-data.ts';
import { wallLoad } from './load.ts';
import { equalParts, fewestParts, mirrored, panelsIn, partFaults, partsOf, surfacesOf } from './parts.ts';
import { captureFit, channelsMeet, compared, lastChannel, loadProfile, truthOf } from './settings.ts';
import { shareOf } from './share.ts';
import { growth, placesOf, wallSize } from './size.ts';

const columns = fc.array(fc.integer({ min: 1, max: 6 }), { minLength: 1, maxLength: 14 });

describe('what a wall is', () => {
  test('pixels, metres, weight and power are counted panel by panel', () => {
    let cases = 0;
    fc.assert(
      fc.property(columns, fc.integer({ min: 0, max: 3 }), fc.constantFrom<1 | 3>(1, 3), (heights, drop, phases) => {
        cases += 1;
        const own = wallOf(heights, { phases });
        const wall = { ...own, columns: own.columns.map((column, at) => ({ ...column, drop: at === 0 ? drop : 0 })) };
        const panel = panelOf();
        const lit = new Set<string>();
        let [kg, watts] = [0, 0];
        for (const [column, row] of placesOf(wall)) {
          kg += panel.kg;
          watts += panel.watts;
          for (let y = 0; y < panel.height; y += 1)
            for (let x = 0; x < panel.width; x += 1) lit.add(`${column * panel.width + x} ${row * panel.height + y}`);
        }
        const size = wallSize(wall, panel);
        expect(lit.size).toBe(size.litPixels);
        expect([size.kg, size.watts]).toEqual([kg, watts]);
        expect(size.amps).toBeCloseTo(watts / 230 / phases, 9);
        const places = [...lit].map((one) => one.split(' ').map(Number));
        expect([size.width, size.height]).toEqual(
          [0, 1].map((at) => Math.max(...places.map((one) => one[at] ?? 0)) + 1),
        );
      }),
      { numRuns: 150 },
    );
    expect(cases).toBe(150);
  });

  test('a known wall: twelve by six, in every measure', () => {
    const size = wallSize(
      wallOf(Array.from({ length: 12 }, () => 6)),
      panelOf({ width: 160, height: 160, widthMm: 500, heightMm: 500, kg: 8.5, watts: 130 }),
    );
    expect([size.panels, size.width, size.height, size.litPixels]).toEqual([72, 1920, 960, 1_843_200]);
    expect([size.widthM, size.heightM, size.chordM, size.kg, size.watts, size.spares]).toEqual([6, 3, 6, 612, 9360, 3]);
    expect(size.amps).toBeCloseTo(13.57, 2);
    expect(size.startAmps).toBe(72);
    // 3.125 mm at one minute of arc
    expect(size.distanceM).toBeCloseTo(10.74, 2);
    expect(growth(size, { litPixels: size.litPixels * 4 })).toBe(4);
  });

  test('a bent wall is shorter from end to end, and gaps make it longer', () => {
    const straight = wallOf([1, 1, 1, 1]);
    const bent = { ...straight, columns: straight.columns.map((column) => ({ ...column, angle: 90 })) };
    const apart = {
      ...straight,
      columns: straight.columns.map((column, at) => ({ ...column, gapMm: at === 2 ? 100 : 0 })),
    };
    // four quarter turns lead back to the beginning
    expect(wallSize(bent, panelOf()).chordM).toBeCloseTo(0, 9);
    expect([wallSize(bent, panelOf()).widthM, wallSize(apart, panelOf()).widthM]).toEqual([2, 2.1]);
  });
});

describe('parts of a wall', () => {
  test('equal parts hold every panel once, and none is more than a column wider than another', () => {
    let cases = 0;
    fc.assert(
      fc.property(columns, fc.integer({ min: 1, max: 9 }), (heights, outputs) => {
        cases += 1;
        const wall = wallOf(heights);
        const parts = equalParts(wall, outputs);
        expect(partFaults(wall, parts)).toEqual({ missed: [], doubled: [], empty: [] });
        const widths = parts.map(({ width }) => width);
        expect(Math.max(...widths) - Math.min(...widths)).toBeLessThanOrEqual(1);
        expect(parts.length).toBe(Math.min(outputs, heights.length));
      }),
      { numRuns: 200 },
    );
    expect(cases).toBe(200);
  });

  test('the fewest outputs are as few as any division by columns has', () => {
    let cases = 0;
    const panel = panelOf();
    fc.assert(
      fc.property(
        fc.array(fc.integer({ min: 1, max: 4 }), { minLength: 1, maxLength: 9 }),
        fc.integer({ min: 1, max: 12 }),
        (heights, carries) => {
          cases += 1;
          const wall = wallOf(heights, { rate: '60' });
          const capacity = { outputs: 4, pixels: carries * panel.width * panel.height, unitOutputs: null };
          const parts = fewestParts(wall, panel, capacity);
          // every way to cut the row of columns
          let fewest = Infinity;
          for (let cuts = 0; cuts < 1 << (heights.length - 1); cuts += 1) {
            const sums = [0];
            heights.forEach((height, at) => {
              if (at > 0 && cuts & (1 << (at - 1))) sums.push(0);
              sums[sums.length - 1] = (sums.at(-1) ?? 0) + height;
            });
            if (sums.every((sum) => sum <= carries)) fewest = Math.min(fewest, sums.length);
          }
          expect(parts?.length ?? Infinity).toBe(fewest);
          if (parts) expect(partFaults(wall, parts)).toEqual({ missed: [], doubled: [], empty: [] });
        },
      ),
      { numRuns: 200 },
    );
    expect(cases).toBe(200);
  });

  test('what is missed, doubled or empty is named, and seen from behind the last part is the first', () => {
    const wall = wallOf([2, 2, 1]);
    const faults = partFaults(wall, [
      { output: 1, x: 0, y: 0, width: 2, height: 1 },
      { output: 2, x: 1, y: 0, width: 1, height: 2 },
      { output: 3, x: 2, y: 1, width: 1, height: 5 },
    ]);
    expect([faults.missed, faults.doubled, faults.empty.map(({ output }) => output)]).toEqual([
      [
        [0, 1],
        [2, 0],
      ],
      [[1, 0]],
      [3],
    ]);
    const parts = partsOf(wall, [1, 2]);
    expect(mirrored(parts).map(({ output, x }) => [output, x])).toEqual([
      [2, 0],
      [1, 1],
    ]);
    expect(mirrored(mirrored(parts))).toEqual(parts);
    expect(parts.map((part) => panelsIn(wall, part).length)).toEqual([2, 3]);
  });
});

test('one surface is declared unless somebody says where another begins; each has its own size', () => {
  const wall = wallOf([2, 2, 3, 1]);
  const sizes = (surfaces: number[]) =>
    surfacesOf({ ...wall, surfaces }, panelOf()).map(({ x, width, height }) => [x, width, height]);
  expect(sizes([])).toEqual([[0, 32, 24]]);
  expect(sizes([2, 2, 99])).toEqual([
    [0, 16, 16],
    [2, 16, 24],
  ]);
});

describe('load', () => {
  test('more bits and more pictures take more of an output, and a loop takes two of them', () => {
    const capacity = { outputs: 4, pixels: 1000, unitOutputs: null };
    expect(shareOf(1000, { bits: 8, rate: '60' }, capacity)).toBe(1);
    expect(shareOf(1000, { bits: 10, rate: '60' }, capacity)).toBe(1.25);
    expect(shareOf(1000, { bits: 12, rate: '25' }, capacity)).toBeCloseTo(0.625, 9);
    const wall = wallOf([2, 2, 2], { rate: '60', loop: true });
    const load = wallLoad({ ...wall, parts: equalParts(wall, 3) }, panelOf(), {
      outputs: 4,
      pixels: 64,
      unitOutputs: null,
    });
    expect(load.outputs.map(({ panels, share, back }) => [panels, share, back])).toEqual([
      [2, 2, 4],
      [2, 2, 5],
      [2, 2, 6],
    ]);
    expect([load.wanted, load.wantedWithLoop, load.processors, load.processorsWithLoop]).toEqual([3, 6, 1, 2]);
  });
});

describe('settings', () => {
  test('a profile overwrites what it knows, and the size of the wall is to be put back', () => {
    const panel = panelOf();
    const wall = wallOf([1, 1, 1]);
    const truth = truthOf(wall, panel);
    const profile = { ...truth, width: 2048, height: 8, chip: 'B2', scan: null };
    const { loaded, putBack } = loadProfile({ program: { ...truth, scan: 16 }, profile }, truth);
    expect([loaded.width, loaded.scan, loaded.chip, putBack]).toEqual([2048, 16, 'B2', { width: 24 }]);
    const rows = compared(
      { ...wall, program: loaded, profile, player: { ...truth, colours: 'RGB', dataFrom: null } },
      panel,
    );
    expect(rows.map(({ field, differs }) => [field, ...differs])).toEqual([
      ['width', 'program', 'profile'],
      ['height'],
      ['scan', 'program'],
      ['colours', 'player'],
      ['dataFrom'],
      ['chip', 'program', 'profile'],
    ]);
  });

  test('a captured part of a desktop is equal, scaled or cropped', () => {
    const wall = { width: 1920, height: 960 };
    expect(
      [
        [1920, 960],
        [960, 480],
        [1920, 1080],
        [1900, 960],
      ].map(([width = 0, height = 0]) => captureFit({ width, height }, wall)),
    ).toEqual([...['equal', 'scaled', 'cropped', 'cropped']]);
  });

  test('channels are counted one after the other, and stretches that share one are told', () => {
    let cases = 0;
    const place = fc.record({ universe: fc.integer({ min: 1, max: 4 }), channel: fc.integer({ min: 1, max: 512 }) });
    const stretch = fc.record({ from: place, pixels: fc.integer({ min: 1, max: 400 }) });
    fc.assert(
      fc.property(stretch, stretch, (a, b) => {
        cases += 1;
        const channels = ({ from, pixels }: typeof a) => {
          const taken = new Set<string>();
          let { universe, channel } = from;
          for (let n = 0; n < pixels * 3; n += 1) {
            taken.add(`${universe}.${channel}`);
            channel += 1;
            if (channel > 512) [universe, channel] = [universe + 1, 1];
          }
          return taken;
        };
        const [own, other] = [channels(a), channels(b)];
        const last = lastChannel(a.from, a.pixels);
        expect([...own].at(-1)).toBe(`${last.universe}.${last.channel}`);
        expect(channelsMeet(a, b)).toBe([...own].some((one) => other.has(one)));
      }),
      { numRuns: 150 },
    );
    expect(cases).toBe(150);
  });
});
