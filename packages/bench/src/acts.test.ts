import { execFile, execFileSync } from 'node:child_process';
import { existsSync, mkdtempSync, rmSync, writeFileSync } from 'node:fs';
import { createSocket } from 'node:dgram';
import { connect } from 'node:net';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { promisify } from 'node:util';
import { encode } from 'dns-packet';
import {
  SlipReader,
  readOsc,
  readRtpMidi,
  writeMidiPacket,
  writeOsc,
  writeSession,
  writeSlip,
  type RtpMidiRead,
  immediately,
} from '@deep-patch/codecs';
import type { contract, show as core, Show } from '@deep-patch/core';
import { demoPasswords, demoShow } from '@deep-patch/demo';
import { afterEach, describe, expect, test, vi } from 'vitest';
import type { BenchEvent } from './bench.ts';
import { demoBench, stopBenches, withHelper } from './demo-bench.test-data.ts';
import type { Site } from './site/site.ts';

afterEach(stopBenches);

/** The address of an OSC message, up to its first zero. */
const oscAddress = (bytes: Uint8Array): string => Buffer.from(bytes.subarray(0, bytes.indexOf(0))).toString('latin1');

describe('faults', () => {
  const cases: readonly [core.FaultKind, deviceId: string, linkId: string, stopsAt: string][] = [
    ['power_off', 'desk', 'host-to-desk', 'cable'],
    ['cable_out', 'desk', 'host-to-desk', 'cable'],
    ['cable_swapped', 'host', 'host-to-desk', 'segment'],
    ['wrong_vlan', 'desk', 'host-to-desk', 'segment'],
    ['second_unit', 'desk', 'host-to-desk', 'address'],
    ['wrong_mask', 'desk', 'host-to-desk', 'address'],
    ['firewall_on', 'media', 'host-to-media', 'address'],
    ['application_closed', 'media', 'host-to-media', 'port'],
    ['no_show_open', 'media', 'host-to-media', 'message or reply'],
    ['helper_quit', 'host', 'host-to-desk', 'service'],
    ['old_firmware', 'camera-1', 'remote-to-camera-1', 'port'],
    ['password_changed', 'camera-1', 'remote-to-camera-1', 'access'],
    ['loop', 'switch-quay', 'host-to-desk', 'segment'],
    ['factory_reset', 'desk', 'host-to-desk', 'address'],
  ];
  test.each(cases)(
    '%s at %s: %s stops at %s, and reaches bottom again once it is mended',
    async (kind, deviceId, linkId, stopsAt) => {
      const { act, stop, open, state, unit } = await demoBench(kind === 'helper_quit' ? withHelper() : demoShow());
      // the demo has two mistakes of its own on these links' units: none of them stops these links
      const before = await stop(linkId);
      expect(before).toBe(linkId === 'host-to-desk' || linkId === 'remote-to-camera-1' ? 'bottom' : before);
      await act({ act: 'set_fault', kind, deviceId });
      expect((await state()).faults).toMatchObject([{ kind, deviceId }]);
      expect((await open(linkId)).join(' or ')).toBe(stopsAt);
      await act({ act: 'clear_fault', id: (await state()).faults[0]?.id ?? '' });
      expect([(await state()).faults, await stop(linkId)]).toEqual([[], before]);
      expect((await unit(deviceId)).status).toBe('up');
    },
  );

  test('a lossy hop loses most of what goes over it, and DHCP that is gone leaves units with addresses of their own', async () => {
    const { act, stop, unit, power, eventually } = await demoBench(withLease(demoShow()));
    expect(await eventually(async () => (await addressOf(unit, 'booth-tablet')).startsWith('10.61.20.1'))).toBe(true);
    await act({ act: 'set_fault', kind: 'dhcp_gone', deviceId: 'router' });
    await power('booth-tablet', false);
    await power('booth-tablet', true);
    expect(await eventually(async () => (await addressOf(unit, 'booth-tablet')).startsWith('169.254.'))).toBe(true);
    await act({ act: 'set_fault', kind: 'wireless_loss', deviceId: 'ap-boat' });
    const stops = [];
    for (let tries = 0; tries < 6; tries += 1) stops.push(await stop('remote-to-camera-4'));
    expect(stops.some((layer) => layer !== 'bottom')).toBe(true);
  });

  test('a fault that makes no sense at a unit is refused with the reason, and nothing is set', async () => {
    const { act, state } = await demoBench();
    for (const [kind, deviceId, reason] of [
      ['loop', 'desk', 'it takes a switch'],
      ['dhcp_gone', 'desk', 'it hands out no addresses'],
      ['password_changed', 'desk', 'it asks for no password'],
      // the helper of its type is for another system
      ['helper_quit', 'host', 'nothing has to run beside it'],
      ['cable_out', 'nobody', 'there is no such unit on the bench'],
    ] as const)
      await expect(act({ act: 'set_fault', kind, deviceId })).rejects.toThrow(reason);
    expect((await state()).faults).toEqual([]);
  });

  test('two faults of one unit are mended in either order, and what was put right by hand stays', async () => {
    for (const first of ['wrong_mask', 'firewall_on'] as const) {
      const { act, stop, state, unit } = await demoBench();
      const before = (await unit('media')).settings;
      await act({ act: 'set_fault', kind: 'wrong_mask', deviceId: 'media' });
      await act({ act: 'set_fault', kind: 'firewall_on', deviceId: 'media' });
      const idOf = async (kind: core.FaultKind) =>
        (await state()).faults.find((fault) => fault.kind === kind)?.id ?? '';
      await act({ act: 'clear_fault', id: await idOf(first) });
      const left = await unit('media');
      const prefix = left.settings.addresses.find(({ adapter }) => adapter === 'lan')?.prefix;
      expect([left.firewall, prefix]).toEqual(first === 'wrong_mask' ? [true, 24] : [false, 30]);
      expect(await stop('host-to-media')).not.toBe('reply');
      for (const { id } of (await state()).faults) await act({ act: 'clear_fault', id });
      expect([(await unit('media')).settings, (await unit('media')).firewall]).toEqual([before, false]);
    }
  });

  test('faults outlive a new plan', async () => {
    const { act, stop, bench, show } = await demoBench();
    await act({ act: 'set_fault', kind: 'cable_out', deviceId: 'desk' });
    await bench.handle({ kind: 'load', plan: { show: { ...show, rev: 2 }, passwords: demoPasswords } });
    expect(await stop('host-to-desk')).toBe('cable');
  });
});

const addressOf = async (unit: (id: string) => Promise<contract.StandinState>, id: string): Promise<string> =>
  (await unit(id)).menu[0]?.[1] ?? '';

function withLease(show: Show): Show {
  const row = show.addresses['control-booth-tablet-lan'];
  return row ? { ...show, addresses: { ...show.addresses, [row.id]: { ...row, method: 'dhcp', ip: null } } } : show;
}

describe('rehearsal', () => {
  test.each([1, 2, 3, 4])(
    'dice %i: hides something that can be found, tells a wrong guess from the right one, and mends it',
    async (seed) => {
      const { act, stop, state } = await demoBench(demoShow(), seed);
      const { rehearsal } = await act({ act: 'rehearse' });
      if (!rehearsal) throw new Error('no rehearsal');
      expect([rehearsal.result, (await state()).faults]).toEqual([null, []]);
      expect(await stop(rehearsal.linkId)).not.toBe('bottom');
      const wrong = await act({ act: 'guess', kind: 'loop', deviceId: 'switch-quay' });
      const { result } = wrong.rehearsal ?? {};
      expect(result).toMatchObject({ right: false, guessedKind: 'loop' });
      expect(await stop(rehearsal.linkId)).toBe('bottom');
      const second = await act({ act: 'give_up' });
      expect(second.rehearsal?.result).toEqual(result);
      const again = await act({ act: 'rehearse' });
      expect(again.rehearsal?.result).toBeNull();
      // found by trying every kind at both units: exactly one is right, and it is what the answer says
      const { rehearsal: told } = await act({ act: 'give_up' });
      expect(told?.result).toMatchObject({ right: false, guessedKind: null });
      expect(await stop(again.rehearsal?.linkId ?? '')).toBe('bottom');
    },
  );

  test('without power there is nothing to rehearse', async () => {
    const { bench, act, show, state } = await demoBench();
    await bench.handle({ kind: 'power', showId: show.id, deviceIds: Object.keys(show.devices), on: false });
    await expect(act({ act: 'rehearse' })).rejects.toThrow('no link works yet');
    expect((await state()).rehearsal).toBeNull();
  });
});

describe('what is keyed in at a unit', () => {
  const change = {
    of: 'address',
    adapter: 'lan',
    method: 'static',
    ip: '10.61.20.66',
    prefix: 24,
    gateway: null,
  } as const;

  test('counts after the acts of its type, in their order, and the link aims past it then', async () => {
    const { act, unit, stop } = await demoBench();
    await act({ act: 'key_in', deviceId: 'desk', change });
    expect(await addressOf(unit, 'desk')).toMatch(/^10\.61\.20\.61 /);
    expect((await unit('desk')).pending).toEqual([
      { of: 'address', acts: ['confirm_entry', 'restart_device'], stage: 'typed', what: 'network: 10.61.20.66 /24' },
    ]);
    await act({ act: 'commit', deviceId: 'desk', step: 'confirm_entry' });
    await act({ act: 'commit', deviceId: 'desk', step: 'restart_device' });
    expect([(await unit('desk')).pending, await addressOf(unit, 'desk')]).toEqual([[], '10.61.20.66 /24']);
    expect([(await unit('desk')).settings.followsPlan, await stop('host-to-desk')]).toEqual([false, 'address']);
    await act({ act: 'follow_plan', deviceIds: ['desk'] });
    expect(await stop('host-to-desk')).toBe('bottom');
  });

  test('is lost with the power, and by a restart before its turn', async () => {
    const { act, unit, power } = await demoBench();
    await act({ act: 'key_in', deviceId: 'desk', change });
    await power('desk', false);
    await power('desk', true);
    expect([(await unit('desk')).pending, await addressOf(unit, 'desk')]).toEqual([
      [],
      expect.stringMatching(/^10\.61\.20\.61 /),
    ]);
    await act({ act: 'key_in', deviceId: 'desk', change });
    await act({ act: 'commit', deviceId: 'desk', step: 'restart_device' });
    expect([(await unit('desk')).pending, await addressOf(unit, 'desk')]).toEqual([
      [],
      expect.stringMatching(/^10\.61\.20\.61 /),
    ]);
  });

  test('a reset brings the factory address back; all units of a type share it then', async () => {
    const { act, unit, eventually } = await demoBench();
    await act({ act: 'factory', deviceIds: ['camera-1', 'camera-2'] });
    expect([await addressOf(unit, 'camera-1'), await addressOf(unit, 'camera-2')]).toEqual([
      '10.88.0.40 /24',
      '10.88.0.40 /24',
    ]);
    expect(await eventually(async () => (await unit('camera-2')).status === 'clash')).toBe(true);
  });

  test('start-up times are real when somebody wants them so, and a unit is not there before', async () => {
    const { act, unit, power, stop, site } = await demoBench();
    await act({ act: 'start_ups', mode: 'real' });
    await power('desk', false);
    await power('desk', true);
    const starting = await unit('desk');
    expect([starting.status, (starting.readyInMs ?? 0) > 60_000]).toEqual(['starting', true]);
    expect(await stop('host-to-desk')).toBe('cable');
    const { scheduler } = site();
    await new Promise<void>((done) => void scheduler.after(starting.readyInMs ?? 0, done));
    expect((await unit('desk')).status).toBe('up');
    expect(await stop('host-to-desk')).toBe('bottom');
  });

  test('a version goes on over the network only to a unit that the technician reaches', async () => {
    const { act, unit } = await demoBench();
    await act({ act: 'update', deviceId: 'desk', firmware: '8.0' });
    expect((await unit('desk')).settings.firmware).toBe('8.0');
    await expect(act({ act: 'update', deviceId: 'led-quay', firmware: '4.0' })).rejects.toThrow('does not reach');
    expect((await unit('led-quay')).settings.firmware).toBe('3.3');
  });
});

describe('scan', () => {
  test('finds every unit of its own subnets that is switched on, none outside, and says what would find those', async () => {
    const { bench, act, state, show, power, eventually } = await demoBench();
    await power('camera-2', false);
    const events: BenchEvent[] = [];
    bench.tellEvents((event) => events.push(event));
    await act({ act: 'scan', deviceId: 'laptop' });
    await expect(act({ act: 'scan', deviceId: 'laptop' })).rejects.toThrow('a scan is under way');
    expect(await eventually(async () => (await state()).scan?.running === false)).toBe(true);
    const hosts = events.flatMap((event) => (event.kind === 'found' ? event.hosts : []));
    const ips = new Set(hosts.flatMap((host) => host.ips.map(({ ip }) => ip)));
    const planned = Object.values(show.addresses).filter(({ networkId, ip }) => networkId === 'control' && ip !== null);
    const expected = new Set(planned.map(({ ip }) => ip).filter((ip) => ip !== '10.61.20.32'));
    expect([...ips].filter((ip) => ip.startsWith('10.61.20.')).sort()).toEqual([...expected].sort());
    // two cameras on one address: both are told
    expect(hosts.filter((host) => host.ips.some(({ ip }) => ip === '10.61.20.33'))).toHaveLength(2);
    expect(hosts.find((host) => host.ips.some(({ ip }) => ip === '10.61.20.61'))).toMatchObject({
      names: ['Lighting desk'],
      version: '7.4',
      source: 'scan',
    });
    const { scan } = await state();
    expect(scan?.outside.map(({ network }) => network).sort()).toEqual(['Audio', 'Harbour office', 'LED']);
    expect(scan?.outside.find(({ network }) => network === 'LED')?.setting).toBe('wired: 10.61.40.254 /24');
    // an address of the house's is asked for, never taken
    expect(scan?.outside.find(({ network }) => network === 'Harbour office')?.setting).not.toMatch(/\d\.\d/);
    // the computer that scans is among them, and is no answer
    expect(hosts.find((host) => host.ips.some(({ ip }) => ip === '10.61.20.128'))?.names).toEqual([
      'Technician’s computer',
    ]);
    const answers = hosts.flatMap((host) => host.ips).filter(({ ip }) => ip.startsWith('10.61.20.'));
    expect(scan?.found).toBe(answers.length - 1);
    const swept = events.flatMap((event) => (event.kind === 'found' ? event.swept : []));
    expect(swept).toContainEqual({ ip: '10.61.20.128', prefix: 24 });
    // somebody who has the scanner's own address is found as well, and what is stopped sweeps nothing
    const twin = (await bench.handle({ kind: 'state', showId: show.id })) as contract.BenchState;
    expect(twin.scan?.running).toBe(false);
    await act({ act: 'set_fault', kind: 'second_unit', deviceId: 'laptop' });
    events.length = 0;
    await act({ act: 'scan', deviceId: 'laptop' });
    expect(await eventually(async () => (await state()).scan?.running === false)).toBe(true);
    const owners = events.flatMap((event) => (event.kind === 'found' ? event.hosts : []));
    expect(owners.filter((host) => host.ips.some(({ ip }) => ip === '10.61.20.128'))).toHaveLength(2);
  });

  test('stops when told to', async () => {
    const { act, state, eventually } = await demoBench();
    await act({ act: 'scan', deviceId: 'laptop' });
    await act({ act: 'stop_scan' });
    expect(await eventually(async () => (await state()).scan?.running === false)).toBe(true);
    expect((await state()).scan).toMatchObject({ stopped: true });
  });
});

describe('what units do by themselves', () => {
  test('a switcher looks a playout machine up once; it starts the machine of an input, as many frames later as the take delay says', async () => {
    const { act, face, sounding, power, eventually } = await demoBench();
    expect(await eventually(async () => (await face('switcher'))['Playout A'] === 'connected')).toBe(true);
    await sounding('host-to-switcher');
    expect((await face('switcher'))['on air']).toBe('5');
    expect(await eventually(async () => (await face('deck-a'))['clip'] === 'playing 1')).toBe(true);
    // that machine and no other
    expect((await face('deck-b'))['clip']).toBe('ready');
    // it was not there when the switcher started: the entry stays dead until somebody keys it in again
    await power('deck-a', false);
    await power('switcher', false);
    await act({ act: 'look_up_again', deviceId: 'switcher' });
    await power('switcher', true);
    expect(await eventually(async () => (await face('switcher'))['Playout A'] === 'not found')).toBe(true);
    await power('deck-a', true);
    expect((await face('switcher'))['Playout A']).toBe('not found');
    await act({ act: 'look_up_again', deviceId: 'switcher' });
    expect(await eventually(async () => (await face('switcher'))['Playout A'] === 'connected')).toBe(true);
  });

  test.each([0, 12, 50])(
    'a take delay of %i frames lets so much time pass between the cut and the bus, and none before the order',
    async (frames) => {
      const { act, face, eventually, site } = await demoBench();
      expect(await eventually(async () => (await face('switcher'))['Playout A'] === 'connected')).toBe(true);
      const made = site();
      await act({ act: 'touch', deviceId: 'switcher', serviceKey: 'web', command: 'take-delay', args: [frames] });
      const told = new Map<string, number>();
      made.air.listen(({ what, at }) => void told.set(what, at));
      const cutAt = made.scheduler.now();
      await act({ act: 'touch', deviceId: 'switcher', serviceKey: 'web', command: 'cut', args: [5] });
      expect(await eventually(() => Promise.resolve(told.has('on_air') && told.has('moves')))).toBe(true);
      const after = (what: string) => (told.get(what) ?? NaN) - cutAt;
      expect(after('on_air')).toBeCloseTo(frames * 40, 6);
      expect(after('arrives')).toBeLessThan(5);
      const { startMs = 0, jitterMs = 0 } = made.standins.get('deck-a')?.type.plays ?? {};
      const start = after('moves') - after('arrives');
      expect([start >= startMs, start <= startMs + jitterMs]).toEqual([true, true]);
    },
  );

  test('time code runs over a session of network MIDI and shows at its receiver', async () => {
    const { face, eventually } = await demoBench();
    expect(await eventually(async () => /^00:00:\d\d:\d\d$/.test((await face('media'))['time code'] ?? ''))).toBe(true);
  });

  test('a playout list follows its folder, but never drops what is on air', async () => {
    const { act, sounding, unit } = await demoBench();
    await act({ act: 'folder', deviceId: 'deck-a', clips: ['1', '2'] });
    await sounding('switcher-to-deck-a');
    await act({ act: 'folder', deviceId: 'deck-a', clips: ['3'] });
    expect((await unit('deck-a')).menu.filter(([label]) => label === 'clip').map(([, name]) => name)).toEqual([
      '1',
      '3',
    ]);
  });

  test('the wrong direction of a first synchronisation overwrites the scenes', async () => {
    const { act, face, sounding } = await demoBench();
    await sounding('faders-left-to-mixer');
    expect((await face('mixer'))['fader 3']).toBe('-6 dB');
    await act({ act: 'synchronise', fromId: 'mixer', toId: 'faders-left' });
    expect((await face('faders-left'))['fader 3']).toBe('-6 dB');
    await act({ act: 'synchronise', fromId: 'faders-right', toId: 'mixer' });
    expect((await face('mixer'))['fader 3']).toBe('0 dB');
  });

  test('partners are held against each other, brought into step with progress, and keep only what is stored', async () => {
    const { act, power, state } = await demoBench();
    const [unit, pair] = [{ deviceId: 'led-quay' }, { fromId: 'wall-setup', toId: 'led-quay' }];
    const layouts = async () => (await state()).partners?.items.map(({ from, to }) => [from, to]);
    const [home, none] = [
      ['made at home', 'made at home'],
      ['made at home', 'as delivered'],
    ];
    await expect(act({ act: 'compare', ...pair })).rejects.toThrow('Wall program does not reach LED processor, quay');
    await act({
      act: 'lead_cable',
      deviceId: 'laptop',
      socket: 'port-1',
      to: { deviceId: 'switch-booth', socket: 'p-7', vlan: 40 },
    });
    const addresses = [{ ip: '10.61.40.250', prefix: 24, gateway: null }];
    await act({ act: 'set_computer', deviceId: 'laptop', adapter: 'lan', addresses });
    await act({ act: 'compare', ...pair });
    expect(await layouts()).toEqual([none]);
    await act({ act: 'keep_copy', ...unit });
    const before = (await state()).copied?.copy ?? expect.fail('no copy');
    const done = act({ act: 'synchronise', ...pair });
    // it goes by within milliseconds here: whoever looks all the time sees it
    let looked = 0;
    for (; (await state()).partners?.done !== 0 && looked < 10_000; looked += 1)
      await new Promise((turn) => void setImmediate(turn));
    expect(looked).toBeLessThan(10_000);
    await expect(act({ act: 'synchronise', ...pair })).rejects.toThrow('under way');
    await done;
    expect([await layouts(), (await state()).partners]).toMatchObject([[home], { done: null, unstored: true }]);
    // it only runs there: the power goes, and it is gone
    await power('led-quay', false);
    expect((await state()).partners).toBeNull();
    await power('led-quay', true);
    await act({ act: 'compare', ...pair });
    expect(await layouts()).toEqual([none]);
    await act({ act: 'synchronise', ...pair });
    await act({ act: 'store', ...unit });
    await power('led-quay', false);
    await expect(act({ act: 'compare', ...pair })).rejects.toThrow('is not switched on');
    await power('led-quay', true);
    await act({ act: 'compare', ...pair });
    expect(await layouts()).toEqual([home]);
    // the copy of before goes back in, and into nothing that it is not of
    await act({ act: 'load_copy', ...unit, copy: before });
    // what was seen before is not shown as if it still were so
    expect(await layouts()).toEqual([none]);
    await expect(act({ act: 'load_copy', deviceId: 'mixer', copy: before })).rejects.toThrow('another model');
    const newer = { ...before, firmware: '99.0' };
    await expect(act({ act: 'load_copy', ...unit, copy: newer })).rejects.toThrow('update it first');
  });

  test('linked computers move together, only from the same item', async () => {
    const show = demoShow();
    const row = show.addresses['control-lyrics-marquee-lan'];
    const placed = row ? { ...show, addresses: { ...show.addresses, [row.id]: { ...row, ip: '10.61.20.73' } } } : show;
    const { face, sounding, eventually, power } = await demoBench(placed);
    await sounding('host-to-lyrics-quay');
    expect((await face('lyrics-quay'))['item']).toBe('1');
    expect(await eventually(async () => (await face('lyrics-marquee'))['item'] === '1')).toBe(true);
    await power('lyrics-marquee', false);
    await power('lyrics-marquee', true);
    // it has nothing open now: the next step from item 1 is not its own
    expect((await face('lyrics-marquee'))['item']).toBe('—');
    await sounding('host-to-lyrics-quay');
    expect((await face('lyrics-marquee'))['item']).toBe('—');
  });

  test('of two groups of them each moves by itself', async () => {
    const show = demoShow();
    const [row, own] = [show.addresses['control-lyrics-marquee-lan'], show.devices['lyrics-marquee']];
    if (!row || !own) throw new Error('no marquee');
    const apart = {
      ...show,
      addresses: { ...show.addresses, [row.id]: { ...row, ip: '10.61.20.73' } },
      devices: { ...show.devices, [own.id]: { ...own, peers: 'marquee' } },
    };
    const { face, sounding, act } = await demoBench(apart);
    await sounding('host-to-lyrics-quay');
    // another one of its own, so that what was sent has come by then
    await act({ act: 'touch', deviceId: 'lyrics-quay', serviceKey: 'osc', command: 'clear', args: [] });
    await sounding('host-to-desk');
    expect((await face('lyrics-marquee'))['item']).toBe('—');
  });
});

describe('computers', () => {
  test('one that is off wakes by its message from another in its segment, and nothing else of it answers before', async () => {
    const { act, unit, power, stop, eventually, bench, show } = await demoBench();
    await power('media', false);
    expect(await stop('host-to-media')).toBe('cable');
    await act({ act: 'wake', deviceId: 'media' });
    expect(await eventually(async () => (await unit('media')).status === 'up')).toBe(true);
    await bench.handle({ kind: 'power', showId: show.id, deviceIds: Object.keys(show.devices), on: false });
    await expect(act({ act: 'wake', deviceId: 'media' })).rejects.toThrow('it takes another computer');
  });

  test('a firewall keeps a message out until its program is allowed, and only that one', async () => {
    const { act, face, sounding, bench, show } = await demoBench();
    await act({ act: 'firewall', deviceId: 'media', on: true });
    const { host } =
      (bench as unknown as { sites: Map<string, { site: Site }> }).sites.get(show.id)?.site.standins.get('host') ?? {};
    const send = async () => {
      const bytes = writeOsc({ address: '/media/item/4', args: [] });
      await host?.sendUdp(0x0a3d1447, { from: 4711, to: 4710 }, bytes);
      await sounding('host-to-desk');
      return (await face('media'))['item'];
    };
    expect(await send()).toBe('—');
    await act({ act: 'allow', deviceId: 'media', serviceKey: 'timecode', on: true });
    expect(await send()).toBe('—');
    await act({ act: 'allow', deviceId: 'media', serviceKey: 'osc', on: true });
    expect(await send()).toBe('4');
  });

  test('list what is connected by bare numbers: which is which shows by connecting one at a time', async () => {
    const { unit, power } = await demoBench();
    const listed = async () => (await unit('host')).endpoints.map(({ name }) => name);
    const all = await listed();
    await power('faders-left', false);
    const without = await listed();
    expect(all.filter((name) => !without.includes(name)).map((name) => name.replace(/\d+/, ''))).toEqual([
      'in ',
      'out ',
    ]);
    await power('faders-left', true);
    expect(await listed()).toEqual(all);
  });

  test('a program goes down and comes back with its computer, once: one answer to who offers it', async () => {
    const { bench, power, eventually, show, sounding } = await demoBench();
    for (const on of [false, true, false, true]) await power('laptop', on);
    // its switch listens before it opens the socket again; a sounding waits for that
    await sounding('host-to-desk');
    const host = (bench as unknown as { sites: Map<string, { site: Site }> }).sites
      .get(show.id)
      ?.site.standins.get('host')?.host;
    const answers: string[] = [];
    host?.join(0xe00000fb);
    host?.tapInto(5353, ({ bytes }) => answers.push(Buffer.from(bytes).toString('latin1')));
    const question = encode({ type: 'query', questions: [{ name: '_osc._udp.local', type: 'PTR' }] });
    await host?.sendUdp(0xe00000fb, { from: 5353, to: 5353 }, new Uint8Array(question));
    const monitors = () => answers.filter((text) => text.includes('Message monitor')).length;
    expect(await eventually(() => Promise.resolve(monitors() > 0))).toBe(true);
    await new Promise((done) => setTimeout(done, 50));
    expect(monitors()).toBe(1);
  });

  test('one seat for two computers: whoever started first has it', async () => {
    const { face, power } = await demoBench();
    const seats = async () => [(await face('lyrics-quay'))['seat'], (await face('lyrics-marquee'))['seat']];
    expect((await seats()).sort()).toEqual(['none left', 'taken']);
    await power('lyrics-quay', false);
    await power('lyrics-marquee', false);
    await power('lyrics-marquee', true);
    await power('lyrics-quay', true);
    expect(await seats()).toEqual(['none left', 'taken']);
  });
});

describe('the tap', () => {
  test('tells who sent and who took something in since it told last, once each', async () => {
    const { bench, sounding, power } = await demoBench();
    await power('timecode', false);
    const told: contract.TapNews[] = [];
    bench.tellEvents((event) => {
      if (event.kind === 'tap') told.push(event.news);
    });
    await sounding('host-to-desk');
    const lit = (direction: 'in' | 'out') => told.flatMap((news) => news.lamps[direction]);
    for (const direction of ['in', 'out'] as const)
      await vi.waitFor(() => expect(lit(direction)).toEqual(expect.arrayContaining(['host', 'desk'])), 20_000);
    expect(told.every(({ lamps: { in: taken } }) => new Set(taken).size === taken.length)).toBe(true);
  });

  test('lists what was heard by address, with its range', async () => {
    const { bench, sounding, show, site } = await demoBench();
    await sounding('faders-left-to-mixer');
    const heard = (await bench.handle({ kind: 'addresses', showId: show.id })) as contract.HeardAddress[];
    const value = { last: '-6', least: -6, greatest: -6 };
    expect(heard).toEqual([{ address: '/mixer/channel/3/level', count: 3, values: [value] }]);
    // a control of two axes sends two values, and each has its range
    const host = site().standins.get('host')?.host ?? expect.fail('no host');
    for (const [x, y] of [
      [0.25, -1],
      [0.75, 3],
    ] as const)
      await host.sendUdp(
        0x0a3d143d,
        { from: 9100, to: 9101 },
        writeOsc({ address: '/pad', args: [{ type: 'f', value: x }, { type: 'i', value: y }, { type: 'T' }] }),
      );
    await new Promise((done) => setTimeout(done, 30));
    const pads = ((await bench.handle({ kind: 'addresses', showId: show.id })) as contract.HeardAddress[]).filter(
      ({ address }) => address === '/pad',
    );
    expect(pads).toEqual([
      {
        address: '/pad',
        count: 2,
        values: [
          { last: '0.75', least: 0.25, greatest: 0.75 },
          { last: '3', least: -1, greatest: 3 },
          { last: 'T', least: null, greatest: null },
        ],
      },
    ]);
  });

  const hasTshark = existsSync('/usr/bin/tshark');
  test.skipIf(!hasTshark)(
    'its capture holds sessions, logins and messages that an analyser dissects without a malformed mark (needs tshark)',
    async () => {
      const { bench, sounding, show } = await demoBench(withLease(demoShow()));
      for (const link of ['host-to-desk', 'remote-to-camera-1', 'faders-right-to-mixer', 'host-to-recorder'])
        await sounding(link);
      const dir = mkdtempSync(join(tmpdir(), 'deep-patch-tap-'));
      try {
        const file = join(dir, 'bench.pcapng');
        writeFileSync(
          file,
          Buffer.from((await bench.handle({ kind: 'capture', showId: show.id })) as string, 'base64'),
        );
        const told = execFileSync(
          'tshark',
          ['-r', file, '--enable-heuristic', 'osc_udp', '-T', 'fields', '-e', 'frame.protocols', '-e', '_ws.malformed'],
          { encoding: 'utf8', stdio: ['ignore', 'pipe', 'ignore'], maxBuffer: 1 << 26 },
        );
        const rows = told
          .trimEnd()
          .split('\n')
          .map((line) => line.split('\t'));
        const kinds = new Set(rows.flatMap(([protocols = '']) => protocols.split(':')));
        for (const kind of ['arp', 'stp', 'dhcp', 'osc', 'http', 'applemidi', 'rtpmidi'])
          expect([kind, kinds.has(kind)]).toEqual([kind, true]);
        // a lone quarter frame is marked malformed by this analyser though it is right (its known fault): all else is clean
        const marked = rows.filter(([, malformed = '']) => malformed !== '');
        expect(marked.filter(([protocols = '']) => !protocols.endsWith('rtpmidi'))).toEqual([]);
        expect(rows.length).toBeGreaterThan(100);
      } finally {
        rmSync(dir, { recursive: true });
      }
    },
  );
});

describe('jacks', () => {
  const jack = async ({ bench, show }: Awaited<ReturnType<typeof demoBench>>, deviceId: string, serviceKey: string) => {
    const { jacks } = (await bench.handle({
      kind: 'jack',
      showId: show.id,
      deviceId,
      serviceKey,
      replyTo: null,
    })) as contract.BenchState;
    return jacks.at(-1)?.port ?? 0;
  };

  const hasCurl = existsSync('/usr/bin/curl');
  test.skipIf(!hasCurl)(
    'curl logs into a camera by digest, and is turned away with another password (needs curl)',
    async () => {
      const made = await demoBench();
      const port = await jack(made, 'camera-1', 'web');
      const ask = async (login: string) => {
        const { stdout } = await promisify(execFile)('curl', [
          ...['-s', '--noproxy', '*', '--digest', '-u', login, '-X', 'PUT', '-o', '/dev/null', '-w', '%{http_code}'],
          `http://127.0.0.1:${port}/control/position/42`,
        ]);
        return stdout;
      };
      expect([await ask('ops:lantern-tide-31'), await ask('ops:wrong')]).toEqual(['200', '401']);
      expect((await made.face('camera-1'))['position']).toBe('42');
    },
  );

  test('outside tools are in the tap and in the capture, and whoever asks is answered at the address that it asks from', async () => {
    const made = await demoBench();
    // time code alone would push everything else out of the latest lines
    await made.power('timecode', false);
    const port = await jack(made, 'desk', 'osc');
    const ask = async (address: string, cue: number) => {
      const socket = createSocket('udp4');
      const answered = new Promise<string>((done) => socket.once('message', (bytes) => done(oscAddress(bytes))));
      await new Promise<void>((done) => socket.bind(0, address, done));
      socket.send(writeOsc({ address: `/desk/cue/${cue}/start`, args: [{ type: 'f', value: 1 }] }), port, '127.0.0.1');
      const said = await answered;
      socket.close();
      return said;
    };
    expect([await ask('127.0.0.1', 5), await ask('127.0.0.5', 6)]).toEqual([
      '/desk/cue/5/running',
      '/desk/cue/6/running',
    ]);
    const { heard } = await made.state();
    const lines = heard
      .filter(({ from, to }) => [from, to].includes('outside tool'))
      .map(({ from, text }) => [from, text.split(' ')[0]]);
    expect(lines).toEqual([
      ['outside tool', '/desk/cue/5/start'],
      ['Lighting desk', '/desk/cue/5/running'],
      ['outside tool', '/desk/cue/6/start'],
      ['Lighting desk', '/desk/cue/6/running'],
    ]);
    const capture = Buffer.from(
      (await made.bench.handle({ kind: 'capture', showId: made.show.id })) as string,
      'base64',
    );
    for (const cue of [5, 6]) expect(capture.includes(`/desk/cue/${cue}/start`)).toBe(true);
  });

  test('a bundle of a thousand messages keeps nobody waiting', async () => {
    const made = await demoBench();
    const port = await jack(made, 'desk', 'osc');
    const elements = Array.from({ length: 1600 }, (_, at) => ({ address: `/desk/cue/${(at % 9) + 1}/stop`, args: [] }));
    const socket = createSocket('udp4');
    for (let n = 0; n < 4; n += 1)
      await new Promise((done) => socket.send(writeOsc({ time: immediately, elements }), port, '127.0.0.1', done));
    const done = () => made.site().standins.get('desk')?.memory.served.get('osc')?.done;
    expect(await made.eventually(() => Promise.resolve(done() === 6400))).toBe(true);
    socket.close();
  });

  test('an outside session of network MIDI joins the mixer through two ports side by side, and hears its fader move', async () => {
    const made = await demoBench();
    const port = await jack(made, 'mixer', 'midi');
    const sockets = [createSocket('udp4'), createSocket('udp4')] as const;
    const heard: RtpMidiRead[] = [];
    for (const socket of sockets) {
      socket.on('message', (bytes) => heard.push(readRtpMidi(bytes)));
      await new Promise<void>((done) => socket.bind(0, '127.0.0.1', done));
    }
    const [control, data] = sockets;
    const invitation = writeSession({ kind: 'invite', token: 77, ssrc: 4242, name: 'outside' });
    control.send(invitation, port, '127.0.0.1');
    data.send(invitation, port + 1, '127.0.0.1');
    expect(await made.eventually(() => Promise.resolve(heard.length === 2))).toBe(true);
    expect(heard).toMatchObject([1, 2].map(() => ({ packet: { kind: 'accept', token: 77, name: 'Audio mixer' } })));
    const moved = { delta: 0, bytes: [0xb2, 7, 101] };
    data.send(writeMidiPacket({ seq: 1, timestamp: 0, ssrc: 4242, messages: [moved] }), port + 1, '127.0.0.1');
    expect(await made.eventually(async () => (await made.face('mixer'))['fader 3'] === '101 of 127')).toBe(true);
    expect(await made.eventually(() => Promise.resolve(heard.length === 3))).toBe(true);
    expect(heard[2]).toMatchObject({ packet: { kind: 'midi', messages: [moved] } });
    for (const socket of sockets) socket.close();
  });

  test('lines of text and OSC packets over TCP are answered on the same connection; without power nobody is there', async () => {
    const made = await demoBench();
    const talk = (port: number, bytes: Uint8Array | string) =>
      new Promise<Buffer>((done, refuse) => {
        const socket = connect(port, '127.0.0.1', () => socket.write(bytes));
        socket.once('data', (chunk) => {
          socket.destroy();
          done(chunk);
        });
        socket.once('error', refuse);
        socket.once('close', () => done(Buffer.alloc(0)));
      });
    const text = await jack(made, 'recorder', 'text');
    expect((await talk(text, 'record final\r\n')).toString()).toBe('recording final\r\n');
    expect((await talk(text, 'hum\n')).toString()).toBe('error unknown command\r\n');
    const osc = await jack(made, 'media', 'osc-stream');
    const [packet] = new SlipReader().push(
      await talk(osc, writeSlip(writeOsc({ address: '/media/item/9', args: [] }))),
    );
    expect(packet && readOsc(packet)).toMatchObject({
      packet: { address: '/media/now', args: [{ type: 'i', value: 9 }] },
    });
    await made.power('recorder', false);
    expect(await talk(text, 'record more\n')).toHaveLength(0);
  });
});
