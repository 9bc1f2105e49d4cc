import { show as core, surfaces, cues, type Show } from '@deep-patch/core';
import { expect, test } from 'vitest';
import { expectItGoesOn, numberFrom, randomRig, rotatingSeed, withSurfaces } from './index.test-data.ts';

const seed = rotatingSeed();
const rigs = numberFrom('SURFACE_RIGS', 80);
const tables = ['controls', 'assignments', 'banks', 'cues'] as const;
const rigAt = (at: number): Show => withSurfaces(randomRig(seed + at).show, seed + at);

/** Text for what a field holds, so that two are compared by what they say. */
const said = (value: unknown): string => JSON.stringify(value) ?? '';

test(`surfaces and cues of ${rigs} random rigs vary every field that they have`, () => {
  const seen = new Map<string, Set<string>>();
  for (let at = 0; at < rigs; at += 1) {
    const show = rigAt(at);
    for (const table of tables)
      for (const row of core.rowsOf(show, table))
        for (const [field, value] of Object.entries(row)) {
          const key = `${table}.${field}`;
          seen.set(key, (seen.get(key) ?? new Set()).add(said(value)));
        }
  }
  const fields = tables.flatMap((table) => Object.keys(core.schemas[table].shape).map((field) => `${table}.${field}`));
  expect([fields.length > 35, fields.filter((field) => (seen.get(field)?.size ?? 0) < 2)]).toEqual([true, []]);
});

test('every way out that is offered for them mends what it is offered for', () => {
  const offered = new Map<string, number>();
  for (let at = 0; at < rigs; at += 1) {
    const show = rigAt(at);
    for (const found of [...surfaces.findSurfaces(show), ...cues.findCues(show)])
      for (const { change, label } of found.fixes) {
        const applied = core.applyChange(show, change);
        const after = applied.ok ? [...surfaces.findSurfaces(applied.show), ...cues.findCues(applied.show)] : [];
        const isLeft = after.some(({ key }) => key === found.key);
        expect([seed + at, found.key, label, applied.ok, isLeft]).toEqual([seed + at, found.key, label, true, false]);
        offered.set(found.code, (offered.get(found.code) ?? 0) + 1);
      }
  }
  const times = (...codes: string[]) => codes.reduce((sum, code) => sum + (offered.get(code) ?? 0), 0);
  expect([times('moves_little', 'sends_beyond') > 2, times('surface_no_way', 'bank_no_way') > 5]).toEqual([true, true]);
  for (const code of ['control_gone', 'cue_no_way', 'cue_name_unknown'])
    expect([code, times(code) > 1]).toEqual([code, true]);
});

test('the analysis that goes on after edits of them is that of the whole show', { timeout: 120_000 }, () => {
  const { edits, kinds } = expectItGoesOn(rigAt, { seed, least: rigs * 4, rooms: ['surfaces', 'cues'] });
  const own = kinds.filter((kind) => /^(assignments|cues|banks|controls) /.test(kind));
  expect([edits >= rigs * 4, own.length > 15]).toEqual([true, true]);
});
