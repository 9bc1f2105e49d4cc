import { readdirSync } from 'node:fs';
import { join } from 'node:path';
import { show as core } from '@deep-patch/core';
import { demoShow } from '@deep-patch/demo';
import { afterEach, describe, expect, test } from 'vitest';
import { demoBench, stopBenches } from '../demo-bench.test-data.ts';
import { faultKinds } from './all.ts';
import { Faults } from './faults.ts';

afterEach(stopBenches);

async function bench() {
  const made = await demoBench();
  const site = made.site();
  await site.settled();
  return { ...made, site, faults: new Faults(site) };
}

test('every kind that has words has its file, and every file is a kind that has words', () => {
  const files = readdirSync(join(import.meta.dirname, 'kinds')).map((name) => name.replace('.ts', ''));
  expect(files.sort()).toEqual(core.faultKinds.map((kind) => kind.replaceAll('_', '-')).sort());
  for (const kind of core.faultKinds) expect([kind, faultKinds[kind].set]).toEqual([kind, expect.any(Function)]);
});

describe('several faults at once', () => {
  test('two of one kind at one place are put back one by one, in either order', async () => {
    for (const firstMended of [0, 1]) {
      const { site, faults } = await bench();
      const hop = [...site.cables.values()].find(({ row }) => row.medium === 'wireless') ?? expect.fail('no hop');
      const before = hop.cable.quality;
      const set = [faults.set('wireless_loss', hop.row.fromDevice), faults.set('wireless_loss', hop.row.toDevice)];
      faults.clear(set[firstMended]?.id ?? '');
      expect(hop.cable.quality.loss).toBeGreaterThan(before.loss);
      faults.clear(set[1 - firstMended]?.id ?? '');
      expect([hop.cable.quality, faults.list()]).toEqual([before, []]);
    }
  });

  test('a cable that was pulled twice stays out until both are mended', async () => {
    const { site, faults } = await bench();
    const cut = () => [...site.cables.values()].filter(({ cable }) => cable.cut).length;
    const [one, two] = [faults.set('cable_out', 'desk'), faults.set('cable_out', 'desk')];
    faults.clear(one.id);
    expect(cut()).toBe(1);
    faults.clear(two.id);
    expect(cut()).toBe(0);
  });
});

test('a reset that is mended gives back what the unit kept and showed, but for what was changed since', async () => {
  const { act, faults, site } = await bench();
  await act({ act: 'store_set', deviceId: 'faders-left', position: 1, label: 'Finals' });
  const { memory } = site.standins.get('faders-left') ?? expect.fail('no faders');
  const [one = '', other = ''] = memory.face.keys();
  const fresh = [memory.face.get(one), memory.face.get(other)];
  memory.face.set(one, 'moved').set(other, 'moved');
  memory.leases.set('lan', 0x0a000001);
  const before = [Object.fromEntries(memory.sets), memory.activeSet];
  const { id } = faults.set('factory_reset', 'faders-left');
  expect([memory.sets.size, memory.activeSet, memory.face.get(one), memory.face.get(other)]).toEqual([
    0,
    null,
    ...fresh,
  ]);
  expect(memory.leases.size).toBe(0);
  memory.face.set(other, 'moved again');
  faults.clear(id);
  expect([Object.fromEntries(memory.sets), memory.activeSet]).toEqual(before);
  expect([memory.face.get(one), memory.face.get(other)]).toEqual(['moved', 'moved again']);
});

test('of an address that two have, either of the two is a right answer, and nobody else', async () => {
  const { faults, site } = await bench();
  const { id, kind } = faults.set('second_unit', 'desk', true);
  const changed = [...site.standins.values()]
    .filter(({ memory }) => memory.own !== undefined)
    .map(({ device }) => device.id);
  expect(changed).toHaveLength(1);
  expect(changed).not.toContain('desk');
  const right = Object.keys(demoShow().devices).filter((deviceId) => faults.isRight(id, { kind, deviceId }));
  expect(right.sort()).toEqual(['desk', ...changed].sort());
  expect(faults.isRight(id, { kind: 'wrong_mask', deviceId: 'desk' })).toBe(false);
});
