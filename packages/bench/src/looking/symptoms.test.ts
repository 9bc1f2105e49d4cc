import { contract, links, type show as core, type Show } from '@deep-patch/core';
import { demoShow } from '@deep-patch/demo';
import { afterEach, expect, test } from 'vitest';
import { demoBench, stopBenches, withHelper } from '../demo-bench.test-data.ts';
import type { KeyedChange } from '../units/keyed-change.ts';

afterEach(stopBenches);

type Bench = Awaited<ReturnType<typeof demoBench>>;
type Setting = [links.CauseKey, links.Symptom, linkId: string, set: (bench: Bench) => Promise<unknown>, show?: Show];

const fault = (kind: core.FaultKind, deviceId: string) => (bench: Bench) =>
  bench.act({ act: 'set_fault', kind, deviceId });
const address = (ip: string, prefix = 24, method: 'static' | 'dhcp' = 'static') =>
  ({ of: 'address', adapter: 'lan', method, ip: method === 'static' ? ip : null, prefix, gateway: null }) as const;
const keyed =
  (deviceId: string, change: KeyedChange, ...steps: core.CommitAct[]) =>
  async (bench: Bench) => {
    await bench.act({ act: 'key_in', deviceId, change });
    for (const step of steps) await bench.act({ act: 'commit', deviceId, step });
  };
/** The desk's planned address, as it has to be keyed in after a reset, and whatever else is still missing then. */
const planned = address('10.61.20.61');
const demo = demoShow();
const changed = (linkId: string, patch: Partial<core.Link>): Show => {
  const link = demo.links[linkId];
  return link ? { ...demo, links: { ...demo.links, [linkId]: { ...link, ...patch } } } : demo;
};

const settings: readonly Setting[] = [
  ['no_power', 'not_found', 'host-to-desk', fault('power_off', 'desk')],
  [
    'starting',
    'not_found',
    'host-to-desk',
    async ({ act, power }) => {
      await act({ act: 'start_ups', mode: 'real' });
      await power('desk', false);
      await power('desk', true);
    },
  ],
  ['cable_out', 'not_found', 'host-to-desk', fault('cable_out', 'desk')],
  ['cables_swapped', 'not_found', 'host-to-desk', fault('cable_swapped', 'host')],
  ['wrong_vlan', 'not_found', 'host-to-desk', fault('wrong_vlan', 'desk')],
  ['loop', 'not_found', 'host-to-desk', fault('loop', 'switch-quay')],
  ['other_mask', 'not_found', 'host-to-desk', fault('wrong_mask', 'desk')],
  [
    'other_subnet',
    'not_found',
    'host-to-desk',
    keyed('desk', address('10.77.0.61'), 'confirm_entry', 'restart_device'),
  ],
  [
    'address_unknown',
    'not_found',
    'host-to-desk',
    keyed('desk', address('10.61.20.199'), 'confirm_entry', 'restart_device'),
  ],
  ['no_lease', 'not_found', 'host-to-desk', keyed('desk', address('', 24, 'dhcp'), 'confirm_entry', 'restart_device')],
  ['factory_address', 'never_worked', 'host-to-desk', fault('factory_reset', 'desk')],
  ['address_clash', 'no_connect', 'host-to-desk', fault('second_unit', 'desk')],
  ['firewall', 'same_machine', 'host-to-media', fault('firewall_on', 'media')],
  ['target_closed', 'trying', 'host-to-media', fault('application_closed', 'media')],
  ['no_show_open', 'warns', 'host-to-media', fault('no_show_open', 'media')],
  [
    'controller_closed',
    'trying',
    'host-to-desk',
    (bench) => bench.act({ act: 'application', deviceId: 'host', state: 'closed' }),
  ],
  ['helper_quit', 'trying', 'host-to-desk', fault('helper_quit', 'host'), withHelper()],
  [
    'in_set_up',
    'not_taken',
    'faders-left-to-mixer',
    keyed('faders-left', address('10.61.20.21'), 'confirm_entry', 'store'),
  ],
  [
    'looked_up_once',
    'no_connect',
    'switcher-to-deck-a',
    async (bench) => {
      expect(await bench.eventually(async () => (await bench.face('switcher'))['Playout A'] === 'connected')).toBe(
        true,
      );
      await bench.power('deck-a', false);
      await bench.power('deck-a', true);
    },
  ],
  ['old_version', 'never_worked', 'remote-to-camera-1', fault('old_firmware', 'camera-1')],
  ['login_changed', 'no_connect', 'remote-to-camera-1', fault('password_changed', 'camera-1')],
  [
    'first_sign_in',
    'never_worked',
    'remote-to-camera-1',
    async (bench) => {
      await bench.act({ act: 'factory', deviceIds: ['camera-1'] });
      await keyed('camera-1', address('10.61.20.31'), 'confirm_page', 'restart_device')(bench);
      await bench.act({ act: 'update', deviceId: 'camera-1', firmware: '2.1' });
      await bench.act({ act: 'look_up_again', deviceId: 'remote' });
    },
  ],
  ['function_off', 'leaves', 'host-to-desk', keyed('desk', { of: 'service', key: 'osc', enabled: false })],
  ['wrong_port', 'leaves', 'host-to-desk', keyed('desk', { of: 'service', key: 'osc', receivePort: 9500 })],
  [
    'reply_elsewhere',
    'bad_but_works',
    'host-to-desk',
    keyed('desk', { of: 'service', key: 'osc', sendTo: '10.61.20.250' }),
  ],
  ['wrong_value', 'leaves', 'host-to-desk', () => Promise.resolve(), changed('host-to-desk', { args: [99_999] })],
  [
    'not_confirmed',
    'not_taken',
    'host-to-desk',
    async (bench) => {
      await fault('factory_reset', 'desk')(bench);
      await keyed('desk', planned)(bench);
    },
  ],
  [
    'restart_due',
    'not_taken',
    'host-to-desk',
    async (bench) => {
      await fault('factory_reset', 'desk')(bench);
      await keyed('desk', planned, 'confirm_entry')(bench);
    },
  ],
  ['not_stored', 'not_taken', 'host-to-desk', keyed('switch-quay', address('10.61.20.9'), 'confirm_page')],
];

test('there are at least as many causes here as symptoms, each of them known', () => {
  expect(new Set(settings.map(([cause]) => cause)).size).toBeGreaterThanOrEqual(24);
});

test.each(settings)(
  '%s, seen as %s on %s, is among the first three, and its own check leads to it',
  async (key, symptom, linkId, set, show) => {
    const bench = await demoBench(show);
    const before = await bench.sounding(linkId);
    if (!show) expect(before.layers.filter(({ state }) => state === 'fail')).toEqual([]);
    await set(bench);
    const measured = await bench.sounding(linkId);
    const listed = links.causesFor(symptom, measured);
    const first = listed.slice(0, 3).map((cause) => cause.key);
    const stop = measured.layers.find(({ state }) => state === 'fail');
    expect([`${stop?.layer} ${stop?.code}`, first]).toEqual([
      `${stop?.layer} ${stop?.code}`,
      expect.arrayContaining([key]),
    ]);
    const cause = listed.find((one) => one.key === key) ?? expect.fail(key);
    expect(cause.state).not.toBe('ruled_out');
    await check(bench, bench.show.links[linkId] ?? expect.fail(linkId), cause, symptom);
  },
);

/** Does what the cause says to make sure of it, and demands that it shows. */
async function check(
  bench: Bench,
  link: core.Link,
  { key, next }: links.ListedCause,
  symptom: links.Symptom,
): Promise<void> {
  if (next.by === 'looking') {
    const failed: (contract.LookingKey | undefined)[] = [];
    for (const deviceId of [link.targetId, link.controllerId]) {
      const { looking } = await bench.act({ act: 'look_for', deviceId });
      failed.push(looking?.checks.find(({ state }) => state === 'fail')?.key);
    }
    expect(contract.lookingKeys.filter((one) => failed.includes(one) && next.keys.includes(one))).not.toEqual([]);
  } else if (next.by === 'screen') {
    // what is not stored may be of a unit on the way
    const ids = key === 'not_stored' ? ['switch-quay'] : [next.of === 'target' ? link.targetId : link.controllerId];
    for (const id of ids) expect([key, next.sees(await bench.unit(id), link)]).toEqual([key, true]);
  } else {
    expect(next.by).toBe('sounding');
    const again = links.causesFor(symptom, await bench.sounding(link.id)).find((one) => one.key === key);
    expect([key, again?.state]).toEqual([key, 'shown']);
  }
}
