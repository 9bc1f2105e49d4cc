import fc from 'fast-check';
import { describe, expect, test } from 'vitest';
import { contentWith } from '../show/index.ts';
import { actionFaults, folderNews } from './lists.ts';
import { secondsWords } from './rules/clips.ts';
import { settingOf, spreadOf, takeDelay } from './take-delay.ts';
import { readDeeds } from './what-happens.ts';

const take = fc.record({
  arrives: fc.double({ min: 0, max: 40, noNaN: true }),
  starts: fc.double({ min: 40, max: 80, noNaN: true }),
  moves: fc.double({ min: 80, max: 900, noNaN: true }),
});

describe('the take delay', () => {
  test('is the fewest frames at which no take is frozen, counted picture by picture', () => {
    let cases = 0;
    fc.assert(
      fc.property(
        fc.array(take, { minLength: 1, maxLength: 60 }),
        fc.constantFrom(24, 25, 30_000 / 1001, 50),
        (takes, rate) => {
          cases += 1;
          const delay = takeDelay(takes, rate);
          if (!delay) throw new Error('nothing was measured');
          // a camera that films the program: is the first picture after the change still the one that stands?
          const isFrozen = (moves: number, frames: number) => (frames * 1000) / rate < moves - 1e-6;
          for (const setting of delay.settings) {
            expect(setting.frozen).toBe(takes.filter(({ moves }) => isFrozen(moves, setting.frames)).length);
            expect(setting.frozen + setting.missing).toBeLessThanOrEqual(takes.length);
          }
          expect(settingOf(takes, delay.frames, rate).frozen).toBe(0);
          if (delay.frames > 0) expect(settingOf(takes, delay.frames - 1, rate).frozen).toBeGreaterThan(0);
          expect(delay.slack).toBeGreaterThan(-1e-6);
          expect(delay.slack).toBeLessThan(1);
        },
      ),
      { numRuns: 200 },
    );
    expect(cases).toBe(200);
  });

  test('says median, 95th percentile and worst as takes that there were', () => {
    expect(spreadOf(Array.from({ length: 200 }, (_, at) => at + 1))).toEqual({ median: 100, nearly: 190, worst: 200 });
    expect(spreadOf([7])).toEqual({ median: 7, nearly: 7, worst: 7 });
    expect(takeDelay([], 25)).toBeUndefined();
  });
});

describe('lists', () => {
  const clip = (id: string, name: string) => ({
    ...contentWith('clips', { id, deviceId: 'd', list: 'Main', place: 0, name, seconds: 10 }),
    rev: 1,
  });

  test('a folder adds and takes away as sets do, and never what plays', () => {
    let cases = 0;
    const names = fc.uniqueArray(fc.constantFrom('a', 'b', 'c', 'd', 'e', 'f'));
    fc.assert(
      fc.property(
        names,
        names,
        fc.option(fc.constantFrom('a', 'b', 'z'), { nil: undefined }),
        (before, after, playing) => {
          cases += 1;
          const items = before.map((name) => clip(name, name));
          const news = folderNews(
            items,
            after.map((name) => ({ name, seconds: 10, form: null })),
            playing,
          );
          expect(news.added.map(({ name }) => name)).toEqual(after.filter((name) => !before.includes(name)));
          const gone = before.filter((name) => !after.includes(name));
          expect(news.removed.map(({ name }) => name)).toEqual(gone.filter((name) => name !== playing));
          expect(news.held.map(({ name }) => name)).toEqual(gone.filter((name) => name === playing));
          expect(news.changed).toEqual([]);
        },
      ),
      { numRuns: 200 },
    );
    expect(cases).toBe(200);
  });

  test('a file that is another now is told; one of which nothing was read is not', () => {
    const items = [clip('a', 'a'), clip('b', 'b')];
    const news = folderNews(
      items,
      [
        { name: 'a', seconds: 12, form: null },
        { name: 'b', seconds: null, form: null },
      ],
      undefined,
    );
    expect(news.changed.map(({ clip: { name } }) => name)).toEqual(['a']);
  });

  test('actions: beyond the end, over it, too close, and none of them', () => {
    const faults = (seconds: number | null, ...actions: [at: number, lasts: number | null][]) =>
      actionFaults({ seconds, actions: actions.map(([at, lasts]) => ({ at, text: 'x', lasts })) }).map(
        ({ fault }) => fault,
      );
    expect(faults(40, [2, 5], [10, 5])).toEqual([]);
    expect([faults(40, [40, null]), faults(40, [39.9, null]), faults(null, [99, 9])]).toEqual([
      ['beyond_the_end'],
      [],
      [],
    ]);
    expect([faults(40, [35, 5]), faults(40, [35, 5.1])]).toEqual([[], ['runs_over']]);
    expect([faults(40, [2, null], [3, null]), faults(40, [2, null], [2.9, null]), faults(40, [2, 5], [6, 1])]).toEqual([
      ...[[], ['too_close'], ['too_close']],
    ]);
  });

  test('lengths as people say them', () => {
    expect([0, 9.5, 60, 100.004, 74.96].map(secondsWords)).toEqual(['0:00', '0:09.5', '1:00', '1:40', '1:15']);
  });
});

test('typed cuts are read, each without a time two seconds after the one before, and what is none is said', () => {
  expect(readDeeds('5, 1 at 12.5; play 7 20\nstop 7').deeds).toEqual([
    { at: 0, do: 'cut', input: 5 },
    { at: 12.5, do: 'cut', input: 1 },
    { at: 20, do: 'play', input: 7 },
    { at: 22, do: 'stop', input: 7 },
  ]);
  expect(readDeeds('select 5 Day 2 at 3, select 7 Breaks').deeds).toEqual([
    { at: 3, do: 'select', input: 5, list: 'Day 2' },
    { at: 5, do: 'select', input: 7, list: 'Breaks' },
  ]);
  expect(readDeeds('five, 3 at noon, select 5').faults).toHaveLength(3);
  expect(readDeeds('')).toEqual({ deeds: [], faults: [] });
});
