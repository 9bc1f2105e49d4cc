import type { contract, show as core } from '@deep-patch/core';
import { afterEach, expect, test } from 'vitest';
import { demoBench, stopBenches } from '../demo-bench.test-data.ts';

afterEach(stopBenches);

/** The demo with what is told of aged links: `since` gives what an event aged, in the order of the plan. */
async function ageing() {
  const made = await demoBench();
  await made.site().settled();
  await made.state();
  let told: string[] = [];
  made.bench.tellEvents((event) => {
    if (event.kind === 'aged') told.push(...event.linkIds);
  });
  const since = async (happens: () => Promise<unknown>): Promise<string[]> => {
    told = [];
    await happens();
    return [...new Set(told)];
  };
  const after = (wanted: contract.BenchAct) => since(() => made.act(wanted));
  const rows: core.Link[] = Object.values(made.show.links);
  const of = (...units: string[]) =>
    rows
      .filter(({ controllerId, targetId }) =>
        [controllerId, targetId].some(
          (id) => units.includes(id) || units.includes(made.show.devices[id]?.runsOn ?? ''),
        ),
      )
      .map(({ id }) => id)
      .sort();
  const fault = (kind: core.FaultKind, deviceId: string) => after({ act: 'set_fault', kind, deviceId });
  const mend = async () => after({ act: 'clear_fault', id: (await made.state()).faults.at(-1)?.id ?? '' });
  return { ...made, since, after, fault, mend, of, all: rows.map(({ id }) => id).sort() };
}

test('what happens to a unit at the edge ages the links that it is an end of, and no others', async () => {
  const { since, after, fault, mend, of, power, all } = await ageing();
  const desk = of('desk');
  expect([desk.length > 0, desk.length < all.length / 2]).toEqual([true, true]);
  for (const on of [false, true]) expect((await since(() => power('desk', on))).sort()).toEqual(desk);
  for (const kind of ['cable_out', 'wrong_vlan', 'wrong_mask', 'password_changed'] as const) {
    const unit = kind === 'password_changed' ? 'camera-1' : 'desk';
    const own = of(unit);
    expect([kind, (await fault(kind, unit)).sort()]).toEqual([kind, own]);
    expect([kind, (await mend()).sort()]).toEqual([kind, own]);
  }
  for (const state of ['closed', 'no_show', 'ready'] as const)
    expect((await after({ act: 'application', deviceId: 'media', state })).sort()).toEqual(of('media'));
  expect((await after({ act: 'firewall', deviceId: 'media', on: true })).sort()).toEqual(of('media'));
  // a surface that is taken into its set-up controls nothing before it is left
  const keyed = {
    of: 'address',
    adapter: 'lan',
    method: 'static',
    ip: '10.61.20.21',
    prefix: 24,
    gateway: null,
  } as const;
  expect(await after({ act: 'key_in', deviceId: 'faders-left', change: keyed })).toEqual(of('faders-left'));
});

test('what happens to a switch ages every link; what only looks, or moves a fader, ages none', async () => {
  const { since, after, fault, mend, power, all, sounding, site } = await ageing();
  expect((await fault('loop', 'switch-quay')).sort()).toEqual(all);
  expect((await mend()).sort()).toEqual(all);
  expect((await since(() => power('switch-booth', false))).sort()).toEqual(all);
  await power('switch-booth', true);
  // two cameras find out that they share an address, and a switcher looks for its machines
  await new Promise<void>((done) => void site().scheduler.after(20_000, done));
  await since(() => sounding('host-to-desk'));
  for (const quiet of [
    () => sounding('host-to-desk'),
    () => after({ act: 'look_for', deviceId: 'desk' }),
    () =>
      after({ act: 'touch', deviceId: 'mixer', serviceKey: 'osc', command: 'fader', args: [1, 0.3] }).catch(() => []),
    () => after({ act: 'watch', everySeconds: 20 }),
    () =>
      after({
        act: 'key_in',
        deviceId: 'desk',
        change: { of: 'address', adapter: 'lan', method: 'static', ip: '10.61.20.66', prefix: 24, gateway: null },
      }),
  ])
    expect(await since(quiet)).toEqual([]);
  expect(await after({ act: 'commit', deviceId: 'desk', step: 'confirm_entry' })).toEqual([]);
  expect((await after({ act: 'commit', deviceId: 'desk', step: 'restart_device' })).length).toBeGreaterThan(0);
});

test('while somebody searches for what is hidden, every link ages: nothing gives away where it is', async () => {
  const { after, all, state } = await ageing();
  expect((await after({ act: 'rehearse' })).sort()).toEqual(all);
  const { rehearsal } = await state();
  const freed = await after({ act: 'give_up' });
  expect([rehearsal?.result, (await state()).rehearsal?.result?.kind, freed.length > 0]).toEqual([
    null,
    expect.any(String),
    true,
  ]);
});
