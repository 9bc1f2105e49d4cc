import fc from 'fast-check';
import { describe, expect, test } from 'vitest';
import { analyse } from '../analyse.ts';
import { applyChange, nothingSeen, type Cable, type Show } from '../show/index.ts';
import { cable, rowOf, showOf, soundRows } from '../show/sample-show.test-data.ts';
import { cablingFacts, cablingWords } from './index.ts';

const withRun = (medium: Cable['medium'], lengthM: number | null): Show =>
  showOf({
    ...soundRows,
    cables: [cable('host', 'p-1'), { ...cable('desk', 'p-2'), medium, lengthM }, cable('camera', 'p-3')],
  });

describe('how far a run may be (C46)', () => {
  test.each([
    ['copper', 100, true],
    ['copper', 100.5, false],
    ['fibre', 10_000, true],
    ['fibre', 10_001, false],
    ['wireless', 50_000, true],
    ['copper', null, true],
  ] as const)('%s of %s m links: %s', (medium, lengthM, links) => {
    const show = withRun(medium, lengthM);
    const { segmentOf, plugOf } = cablingFacts(show);
    expect([segmentOf('desk-lan') === segmentOf('host-lan'), plugOf('desk-lan') !== undefined]).toEqual([links, links]);
    const { findings, soundings } = analyse(show, nothingSeen, 0);
    const told = findings.filter(({ room, code }) => room === 'cabling' && code === 'too_long');
    expect(told).toHaveLength(links ? 0 : 1);
    const stop = soundings.get('to-desk')?.stopsAt;
    expect([stop?.layer, stop?.code]).toEqual(links ? [undefined, undefined] : ['cable', 'too_long']);
  });

  test('the fix lays fibre where that reaches, and is not offered where nothing does', () => {
    const show = withRun('copper', 140);
    const [finding] = analyse(show, nothingSeen, 0).findings.filter(({ code }) => code === 'too_long');
    if (!finding) throw new Error('nothing found');
    expect(cablingWords(finding)).toEqual({
      what: 'The copper run from desk to hub is 140 m long; 100 m is the most.',
      why: 'No link comes up on it, or one that loses what it carries.',
      fix: 'Lay fibre, or put a switch half way.',
    });
    const [fix] = finding.fixes;
    if (!fix) throw new Error('no fix');
    const applied = applyChange(show, fix.change);
    if (!applied.ok) throw new Error('the fix does not apply');
    expect(rowOf(applied.show, 'cables', 'c-desk').medium).toBe('fibre');
    expect(analyse(applied.show, nothingSeen, 0).soundings.get('to-desk')?.depth).toBe(8);
    const far = analyse(withRun('fibre', 12_000), nothingSeen, 0).findings.find(({ code }) => code === 'too_long');
    expect([far?.fixes, far && cablingWords(far).fix]).toEqual([[], 'Put switches on the way.']);
  });

  test('a longer run never links where a shorter one did not', () => {
    const medium = fc.constantFrom('copper' as const, 'fibre' as const, 'wireless' as const);
    fc.assert(
      fc.property(medium, fc.nat(20_000), fc.nat(20_000), (kind, one, other) => {
        const links = (lengthM: number) => cablingFacts(withRun(kind, lengthM)).plugOf('desk-lan') !== undefined;
        const [short, long] = [Math.min(one, other), Math.max(one, other)];
        expect(links(long) && !links(short)).toBe(false);
      }),
      { numRuns: 60 },
    );
  });
});
