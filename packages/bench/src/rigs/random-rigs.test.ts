import { show as core } from '@deep-patch/core';
import { pulledOf, randomRig, rotatingSeed } from '@deep-patch/demo/rigs';
import { expect, test } from 'vitest';
import { agrees, compare, type Comparison } from './agreement.test-data.ts';

const rigs = 300;

test(`on ${rigs} random rigs every link stops in the bench exactly where the plan says`, async () => {
  const seed = rotatingSeed();
  const all: Comparison[] = [];
  for (let at = 0; at < rigs; at += 1) {
    const { show, passwords } = randomRig(seed + at);
    const compared = await compare(show, passwords, undefined, pulledOf(show, seed + at));
    const wrong = compared
      .filter((one) => !agrees(one))
      .map((one) => [one.linkId, one.forecast, one.code, one.happened]);
    expect([`seed ${seed + at}`, wrong]).toEqual([`seed ${seed + at}`, []]);
    all.push(...compared);
  }
  expect(all.length).toBeGreaterThan(rigs);
  // few links depend on what a server picks, and links stop at every layer and reach the bottom
  expect(all.filter(({ chance }) => chance).length / all.length).toBeLessThan(0.1);
  const stops = new Set(all.filter(({ chance }) => !chance).map(({ forecast }) => forecast));
  for (const layer of [...core.layerNames.filter((name) => name !== 'access'), 'bottom'])
    expect([`seed ${seed}`, layer, stops.has(layer as never)]).toEqual([`seed ${seed}`, layer, true]);
}, 300_000);

/** Fields that decide nothing here, with the reason. */
const still: ReadonlySet<string> = new Set([
  'networks.id',
  'devices.id',
  'interfaces.id',
  'addresses.id',
  'cables.id',
  'services.id',
  'links.id',
  // names and notes are for people; lists before the site and papers have rules and tests of their own
  'devices.features',
  'devices.packed',
  'devices.done',
  'devices.accounts',
  // what goes on air has rigs and tests of its own, in demo
  'devices.rate',
  'devices.takeDelay',
  'devices.leads',
  'devices.usedFor',
  'devices.outputs',
]);

test('the random rigs vary every field of what they are made of', () => {
  const seen = new Map<string, Set<string>>();
  const tables = ['networks', 'devices', 'interfaces', 'addresses', 'cables', 'services', 'links'] as const;
  for (let seed = 0; seed < 400; seed += 1) {
    const { show } = randomRig(seed);
    for (const table of tables)
      for (const row of core.rowsOf(show, table))
        for (const [field, value] of Object.entries(row)) {
          const values = seen.get(`${table}.${field}`) ?? new Set();
          seen.set(`${table}.${field}`, values.add(JSON.stringify(value)));
        }
  }
  const fields = tables.flatMap((table) => Object.keys(core.schemas[table].shape).map((field) => `${table}.${field}`));
  const unvaried = fields.filter((field) => (seen.get(field)?.size ?? 0) < 2 && !still.has(field));
  expect([fields.length > 70, unvaried]).toEqual([true, []]);
  for (const enumerated of [
    ['addresses.method', 3],
    ['cables.medium', 3],
    ['services.login', 4],
  ] as const)
    expect([enumerated, seen.get(enumerated[0])?.size]).toEqual([enumerated, enumerated[1]]);
});

test('a rig from its seed is what the schema takes', () => {
  for (let seed = 0; seed < 200; seed += 1) {
    const { show } = randomRig(seed);
    expect([seed, core.danglingReferences(show)]).toEqual([seed, []]);
    for (const table of core.tableNames)
      for (const row of core.rowsOf(show, table)) {
        const read = core.schemas[table].safeParse(core.contentOf(row));
        // a network typed with bits behind its mask is refused at the door
        expect([seed, table, row.id, read.error?.issues]).toEqual([seed, table, row.id, undefined]);
      }
  }
});
