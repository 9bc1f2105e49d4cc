import { onair, show as core, timecode, type Show } from '@deep-patch/core';
import { expect, test } from 'vitest';
import { expectItGoesOn, numberFrom, randomRig, rotatingSeed, withOnAir } from './index.test-data.ts';

const seed = rotatingSeed();
const rigs = numberFrom('AIR_RIGS', 80);
const tables = ['inputRules', 'clips', 'timeHops'] as const;
const rigAt = (at: number): Show => withOnAir(randomRig(seed + at).show, seed + at);
const said = (value: unknown): string => JSON.stringify(value) ?? '';
const findings = (show: Show) => [...onair.findOnAir(show), ...timecode.findTimecode(show)];

test(`what goes on air, and time code, of ${rigs} random rigs vary every field that they have`, () => {
  const seen = new Map<string, Set<string>>();
  const see = (key: string, value: unknown) => seen.set(key, (seen.get(key) ?? new Set()).add(said(value)));
  const units = ['rate', 'takeDelay', 'leads', 'usedFor', 'outputs'] as const;
  const types = ['plays', 'timecode'] as const;
  for (let at = 0; at < rigs; at += 1) {
    const show = rigAt(at);
    for (const table of tables)
      for (const row of core.rowsOf(show, table))
        for (const [field, value] of Object.entries(row)) see(`${table}.${field}`, value);
    for (const device of core.rowsOf(show, 'devices'))
      for (const field of units) see(`devices.${field}`, device[field]);
    for (const type of core.rowsOf(show, 'types')) for (const field of types) see(`types.${field}`, type[field]);
  }
  const fields = [
    ...tables.flatMap((table) => Object.keys(core.schemas[table].shape).map((field) => `${table}.${field}`)),
    ...[...units.map((field) => `devices.${field}`), ...types.map((field) => `types.${field}`)],
  ];
  // there is one switcher
  const still = fields.filter((field) => field !== 'inputRules.switcherId' && (seen.get(field)?.size ?? 0) < 2);
  expect([fields.length > 25, still]).toEqual([true, []]);
});

test('every way out that is offered mends what it is offered for', () => {
  const offered = new Map<string, number>();
  for (let at = 0; at < rigs; at += 1) {
    const show = rigAt(at);
    for (const found of findings(show))
      for (const { change, label } of found.fixes) {
        const applied = core.applyChange(show, change);
        const isLeft = applied.ok && findings(applied.show).some(({ key }) => key === found.key);
        expect([seed + at, found.key, label, applied.ok, isLeft]).toEqual([seed + at, found.key, label, true, false]);
        offered.set(found.code, (offered.get(found.code) ?? 0) + 1);
      }
  }
  for (const code of [
    'input_kind_differs',
    'list_unknown',
    'take_delay_short',
    'time_name_differs',
    'time_rate_differs',
  ])
    expect([code, (offered.get(code) ?? 0) > 1]).toEqual([code, true]);
});

test('the analysis that goes on after edits of them is that of the whole show', { timeout: 120_000 }, () => {
  const { edits, kinds } = expectItGoesOn(rigAt, { seed, least: rigs * 4, rooms: ['onair', 'timecode'] });
  const own = kinds.filter((kind) => /^(inputRules|clips|timeHops) /.test(kind));
  expect([edits >= rigs * 4, own.length > 10]).toEqual([true, true]);
});
