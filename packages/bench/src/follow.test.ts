import { show as core, type Change, type Show } from '@deep-patch/core';
import { demoPasswords, demoShow } from '@deep-patch/demo';
import { diceOf, rotatingSeed, type Dice } from '@deep-patch/demo/rigs';
import { afterEach, expect, test } from 'vitest';
import { demoBench, stopBenches } from './demo-bench.test-data.ts';
import { startScheduler, type Scheduler } from './ether/scheduler.ts';
import { Site } from './site/site.ts';

afterEach(stopBenches);

/** A change as somebody makes it in passing: a row renamed, taken out with what hangs on it, or brought back. */
function someChange(show: Show, { pick }: Dice, at: number): Change {
  const kinds: readonly (() => Change | undefined)[] = [
    () => core.changeOf('n', [core.updateRow('devices', pick(core.rowsOf(show, 'devices')), { name: `Unit ${at}` })]),
    () =>
      core.changeOf('i', [
        core.updateRow('addresses', pick(core.rowsOf(show, 'addresses')), { ip: `10.61.20.${100 + at}` }),
      ]),
    () => core.changeOf('c', [core.removeRow('cables', pick(core.rowsOf(show, 'cables')))]),
    () =>
      core.changeOf('p', [core.updateRow('services', pick(core.rowsOf(show, 'services')), { receivePort: 9000 + at })]),
    () => core.planRemove(show, 'devices', [pick(core.rowsOf(show, 'devices')).id], 'r'),
  ];
  return pick(kinds)() ?? { label: 'none', edits: [] };
}

test('a bench that follows changes is where one is that loads the plan anew, and refuses changes with a gap', async () => {
  const seed = rotatingSeed();
  console.log(`RIG_SEED=${seed}`);
  const dice = diceOf(seed);
  const [one, two] = [await demoBench(), await demoBench()];
  const showId = one.show.id;
  let { show } = one;
  for (let round = 0; round < 12; round += 1) {
    const changes = Array.from({ length: 1 + dice.below(4) }, (_, at) => {
      const change = { ...someChange(show, dice, round * 5 + at), rev: show.rev + 1 };
      show = core.written(show, change, change.rev);
      return change;
    });
    await one.bench.handle({ kind: 'follow', showId, changes, passwords: null });
    await two.bench.handle({ kind: 'load', plan: { show, passwords: demoPasswords } });
    expect(one.site().plan).toEqual(two.site().plan);
    const settings = async ({ state }: typeof one) =>
      (await state()).standins.map(({ deviceId, settings: each, powered }) => ({ deviceId, each, powered }));
    expect(await settings(one)).toEqual(await settings(two));
  }
  const late = { label: 'late', edits: [], rev: show.rev + 2 };
  const behind = one.bench.handle({ kind: 'follow', showId, changes: [late], passwords: null });
  await expect(behind).rejects.toThrow('changes are missing');
  expect(one.site().rev).toBe(show.rev);
});

/** Counts what is still to happen: whatever waits keeps the whole site that it belongs to. */
function counting(scheduler: Scheduler): Scheduler & { readonly open: () => number } {
  const open = new Set<object>();
  return {
    ...scheduler,
    open: () => open.size,
    after: (ms, run) => {
      const event = {};
      open.add(event);
      const cancel = scheduler.after(ms, () => {
        open.delete(event);
        run();
      });
      return () => {
        open.delete(event);
        cancel();
      };
    },
  };
}

test('a site that was built anew leaves nothing of the old one that waits', async () => {
  const scheduler = counting(startScheduler(Infinity));
  const wait = (seconds: number) => new Promise<void>((done) => void scheduler.after(seconds * 1000, done));
  const demo = demoShow();
  // everybody but the router that lends
  const addresses = core.rowsOf(demo, 'addresses').map((row) => {
    const device = demo.devices[demo.interfaces[row.interfaceId]?.deviceId ?? ''];
    const isRouter = demo.types[device?.typeId ?? '']?.kind === 'router';
    return isRouter ? row : { ...row, method: 'dhcp' as const, ip: null };
  });
  const show = { ...demo, addresses: Object.fromEntries(addresses.map((row) => [row.id, row])) };
  const site = new Site({ show, passwords: demoPasswords }, scheduler, () => 0.5, 0);
  site.power(Object.keys(show.devices), true);
  await wait(100);
  const adapters = [...site.standins.values()].flatMap(({ host }) => host.adapters);
  expect(adapters.filter(({ addresses: own }) => own.some(({ leased }) => leased)).length).toBeGreaterThan(5);
  const first = scheduler.open();
  for (let rev = 1; rev <= 20; rev += 1) {
    site.load({ show: { ...show, rev }, passwords: demoPasswords });
    await wait(2);
  }
  await wait(20);
  expect(scheduler.open()).toBeLessThanOrEqual(first + 2);
  scheduler.stop();
});
