import { expect, test } from 'vitest';
import { addressingFacts } from '../addressing/index.ts';
import { nothingSeen, type Seen } from '../show/index.ts';
import { showOf, soundRows } from '../show/sample-show.test-data.ts';
import { linkFacts } from './forecast.ts';
import { framesFor, overTheAir } from './over-the-air.ts';

test('links over a wireless hop are listed with the delay that is known best; wired ones are not', () => {
  const lines = (delayMs: number | null, seen: Seen = nothingSeen) => {
    const show = showOf({
      ...soundRows,
      cables: soundRows.cables.map((row) =>
        row.id === 'c-desk' ? { ...row, medium: 'wireless' as const, delayMs } : row,
      ),
    });
    return overTheAir(show, linkFacts(show, addressingFacts(show)), seen).map(
      ({ target, delayMs: delay, from }) => [target.name, delay, from] as const,
    );
  };
  expect(lines(null)).toEqual([['desk', undefined, 'unknown']]);
  expect(lines(12)).toEqual([['desk', 12, 'written_down']]);
  const sounding = { linkId: 'to-desk', source: 'bench', at: 0, rev: 1, layers: [], rttMs: 31, basis: '' } as const;
  expect(lines(12, { ...nothingSeen, soundings: { 'to-desk': sounding } })).toEqual([['desk', 15.5, 'sounded']]);
});

test('frames are rounded up, and a delay of whole frames stays whole', () => {
  expect([framesFor(0, 25), framesFor(1, 25), framesFor(40, 25), framesFor(40.1, 25)]).toEqual([0, 1, 1, 2]);
  expect([framesFor(1001 / 30, 29.97), framesFor(100, 59.94), framesFor(20, 50)]).toEqual([1, 6, 1]);
});
