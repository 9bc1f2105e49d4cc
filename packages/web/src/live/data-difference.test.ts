import { StandingAnalysis, analyse, show as core, type Analysis } from '@deep-patch/core';
import { demoShow } from '@deep-patch/demo';
import fc from 'fast-check';
import { expect, test } from 'vitest';
import { dataDifference, withDataDifference } from './data-difference.ts';
import { toldDifference, withTold } from './told-analysis.ts';

const data = fc.letrec((tie) => ({
  any: fc.oneof(
    { maxDepth: 3 },
    fc.constantFrom(null, 1, 2, 'x', ''),
    fc.array(tie('any'), { maxLength: 4 }),
    fc.dictionary(fc.constantFrom('a', 'b', 'c'), tie('any'), { maxKeys: 3, noNullPrototype: true }),
  ),
})).any;

test('a value made of the one before and what differs is the value, whatever both are', () => {
  let cases = 0;
  fc.assert(
    fc.property(data, data, fc.array(data, { maxLength: 3 }), (before, now, shared) => {
      cases += 1;
      // parts that both have are the same objects
      const [one, two] = [
        { own: before, list: [...shared, before, ...shared] },
        { own: now, list: [...shared, now, now, ...shared] },
      ];
      const held = structuredClone(one);
      expect(withDataDifference(held, structuredClone(dataDifference(one, two)))).toEqual(two);
      expect(dataDifference(two, two)).toBe('same');
    }),
  );
  expect(cases).toBe(100);
});

test('an analysis is told by what changed in it, and is whole where it was told', () => {
  let show = demoShow();
  const standing = new StandingAnalysis(show, core.nothingSeen, 0);
  let before = standing.parts();
  let told: Analysis = withTold(undefined, show, structuredClone(toldDifference(undefined, before)));
  const sizes: number[] = [];
  for (const device of core.rowsOf(show, 'devices').slice(0, 12)) {
    const change = core.changeOf('note', [core.updateRow('devices', device, { note: 'Here', firmware: '0.1' })]);
    if (!change) continue;
    show = core.written(show, change, show.rev + 1);
    const rows = change.edits.map(({ table, id }) => ({ table, id, row: show[table][id] ?? null }));
    const now = standing.advance(rows, show.rev, core.nothingSeen, 0);
    const message = structuredClone(toldDifference(before, now));
    sizes.push(JSON.stringify(message).length);
    told = withTold(told, show, message);
    before = now;
  }
  const { addressing, ...whole } = analyse(show, core.nothingSeen, 0);
  const { addressing: own, ...parts } = told;
  expect(sizes).toHaveLength(12);
  // a small part of the whole, told each time
  expect(Math.max(...sizes)).toBeLessThan(JSON.stringify([whole.findings, [...whole.soundings]]).length / 5);
  expect(parts.soundings).toEqual(whole.soundings);
  expect(parts.depths).toEqual(whole.depths);
  expect(new Set(parts.findings.map(({ key }) => key))).toEqual(new Set(whole.findings.map(({ key }) => key)));
  expect([...own.byIp.keys()]).toEqual([...addressing.byIp.keys()]);
});
