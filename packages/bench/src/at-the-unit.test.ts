import { afterEach, expect, test } from 'vitest';
import { demoShow } from '@deep-patch/demo';
import { rig, show as core, type contract } from '@deep-patch/core';
import { demoBench, tuned, stopBenches, withHelper } from './demo-bench.test-data.ts';

afterEach(stopBenches);

const address = (adapter: string, ip: string) =>
  ({ of: 'address', adapter, method: 'static', ip, prefix: 24, gateway: null }) as const;
const lineOf = ({ menu }: contract.StandinState, label: string) => menu.find(([name]) => name === label)?.[1];

test('a unit with nothing but a page is set only from a computer that reaches it; a display needs none', async () => {
  const { act, unit, power } = await demoBench();
  await act({ act: 'factory', deviceIds: ['switch-booth'] });
  const change = address('lan', '10.61.20.9');
  await expect(act({ act: 'key_in', deviceId: 'switch-booth', change })).rejects.toThrow(
    'its page opens only on a computer that reaches its address; it is at 10.88.0.2 /24',
  );
  // a second address beside it opens the way; only the switch's own VLAN lets it through
  await act({ act: 'key_in', deviceId: 'laptop', change: address('lan', '10.88.0.200') });
  await act({ act: 'key_in', deviceId: 'switch-booth', change });
  expect((await unit('switch-booth')).pending[0]?.acts).toEqual(['confirm_page', 'store']);
  await power('laptop', false);
  await act({ act: 'key_in', deviceId: 'desk', change: address('lan', '10.61.20.66') });
  expect((await unit('desk')).pending[0]?.of).toBe('address');
});

test('a computer that was set to reach something gets its earlier address back', async () => {
  const { act, unit, bench, show } = await demoBench();
  const before = lineOf(await unit('laptop'), 'wired');
  await act({ act: 'key_in', deviceId: 'laptop', change: address('lan', '10.88.0.200') });
  await act({ act: 'key_in', deviceId: 'laptop', change: address('lan', '10.99.0.200') });
  expect([(await unit('laptop')).earlier, lineOf(await unit('laptop'), 'wired')]).toEqual([
    '10.61.20.128 /24',
    '10.99.0.200 /24',
  ]);
  // a new plan in between changes nothing of what stood there
  await bench.handle({ kind: 'load', plan: { show: { ...show, rev: 2 }, passwords: {} } });
  await act({ act: 'put_back', deviceId: 'laptop' });
  const after = await unit('laptop');
  expect([after.earlier, lineOf(after, 'wired'), after.settings.followsPlan]).toEqual([null, before, true]);
  await expect(act({ act: 'put_back', deviceId: 'laptop' })).rejects.toThrow('nothing was keyed in');
  for (const [change, reason] of [
    [address('radio-2', '10.61.20.9'), 'no adapter “radio-2”'],
    [{ of: 'mode', variant: 'tour' }, 'no mode “tour”'],
    [{ of: 'service', key: 'web', enabled: false }, 'no function “web”'],
  ] as const)
    await expect(act({ act: 'key_in', deviceId: 'laptop', change })).rejects.toThrow(reason);
});

test('a surface controls nothing before its set-up is left', async () => {
  const { act, unit, sounding } = await demoBench();
  await act({ act: 'key_in', deviceId: 'faders-left', change: address('lan', '10.61.20.21') });
  expect((await unit('faders-left')).status).toBe('set-up');
  const stopped = (await sounding('faders-left-to-mixer')).layers.find(({ state }) => state === 'fail');
  expect([stopped?.layer, stopped?.code]).toEqual(['service', 'in_set_up']);
  for (const step of ['confirm_entry', 'store', 'leave_setup'] as const)
    await act({ act: 'commit', deviceId: 'faders-left', step });
  expect((await unit('faders-left')).status).toBe('up');
  expect((await sounding('faders-left-to-mixer')).layers.every(({ state }) => state === 'pass')).toBe(true);
});

test('stored sets keep each their settings, and a position that is taken is never written over', async () => {
  const { act, unit } = await demoBench();
  const ipOf = async () => (await unit('faders-left')).settings.addresses[0]?.ip;
  await act({ act: 'store_set', deviceId: 'faders-left', position: 1, label: 'Quay' });
  await act({ act: 'key_in', deviceId: 'faders-left', change: address('lan', '10.99.0.21') });
  for (const step of ['confirm_entry', 'store', 'leave_setup'] as const)
    await act({ act: 'commit', deviceId: 'faders-left', step });
  const again = act({ act: 'store_set', deviceId: 'faders-left', position: 1, label: 'Tour' });
  await expect(again).rejects.toThrow('position 1 holds “Quay”');
  await act({ act: 'store_set', deviceId: 'faders-left', position: 2, label: 'Tour' });
  await act({ act: 'take_set', deviceId: 'faders-left', position: 1 });
  expect([await ipOf(), (await unit('faders-left')).sets]).toEqual([
    '10.61.20.21',
    [
      { position: 1, label: 'Quay', active: true, isAsStored: true },
      { position: 2, label: 'Tour', active: false, isAsStored: false },
    ],
  ]);
  await act({ act: 'take_set', deviceId: 'faders-left', position: 2 });
  expect(await ipOf()).toBe('10.99.0.21');
  await expect(act({ act: 'store_set', deviceId: 'faders-left', position: 9, label: 'x' })).rejects.toThrow('4 sets');
  await act({ act: 'drop_set', deviceId: 'faders-left', position: 2 });
  await expect(act({ act: 'take_set', deviceId: 'faders-left', position: 2 })).rejects.toThrow('is empty');
});

test('in another mode a socket leads elsewhere, once the unit was restarted', async () => {
  const show = demoShow();
  const cable = show.cables['c-amp-1-port-1'] as core.Cable;
  // its cable sits in a socket that the audio network variant takes for itself
  const cables = { ...show.cables, [cable.id]: { ...cable, fromSocket: 'port-3' } };
  const { act, bench, unit, site, power } = await demoBench({ ...show, cables });
  const reached = async () => (await site().standins.get('stage-rack')?.host.ping(0x0a3d1e29)) !== undefined;
  expect([await reached(), lineOf(await unit('amp-1'), 'mode')]).toEqual([true, 'usual']);
  const change = { of: 'mode', variant: 'audio-network' } as const;
  await expect(act({ act: 'key_in', deviceId: 'amp-1', change })).rejects.toThrow(
    'its program finds it only in the segment of a computer',
  );
  // a computer in its segment opens the way
  const laptop = show.cables['c-laptop-port-1'] as core.Cable;
  const { 'c-amp-6-port-1': _, ...others } = cables;
  const nearby = { ...others, [laptop.id]: { ...laptop, toDevice: 'switch-audio', toSocket: 'p-8' } };
  await bench.handle({ kind: 'load', plan: { show: { ...show, rev: 2, cables: nearby }, passwords: {} } });
  await act({ act: 'key_in', deviceId: 'amp-1', change });
  expect([await reached(), lineOf(await unit('amp-1'), 'mode')]).toEqual([true, 'usual']);
  await act({ act: 'commit', deviceId: 'amp-1', step: 'restart_device' });
  expect([await reached(), lineOf(await unit('amp-1'), 'mode')]).toEqual([false, 'with audio network']);
  await act({ act: 'follow_plan', deviceIds: ['amp-1'] });
  expect(await reached()).toBe(true);
  // set while it was off, it counts when it comes up
  await act({ act: 'key_in', deviceId: 'amp-1', change });
  await act({ act: 'commit', deviceId: 'amp-1', step: 'restart_device' });
  await power('amp-1', false);
  await act({ act: 'follow_plan', deviceIds: ['amp-1'] });
  await power('amp-1', true);
  expect(await reached()).toBe(true);
});

test('a service that is opened by kind of client keeps a tablet out until somebody opens it for tablets', async () => {
  const show = tuned();
  const link = core.filledRow('links', {
    ...{ id: 'tablet', controllerId: 'booth-tablet', targetId: 'switcher', serviceKey: 'web', port: 8090, slot: null },
    ...{ host: null, replyPort: null, account: null, secretId: null, command: 'cut', args: [5] },
  });
  const rigged = { ...show, links: { ...show.links, tablet: { ...link, rev: 1 } } };
  const { act, unit, sounding, face } = await demoBench(rigged);
  const stop = async () => (await sounding('tablet')).layers.find(({ state }) => state === 'fail')?.code;
  expect(await stop()).toBe('not_open_for');
  expect((await face('switcher'))['on air']).not.toBe('5');
  // other kinds need nothing to be opened
  expect((await sounding('host-to-switcher')).layers.every(({ state }) => state === 'pass')).toBe(true);
  await act({ act: 'key_in', deviceId: 'switcher', change: { of: 'service', key: 'web', openFor: ['tablet'] } });
  for (const { acts } of (await unit('switcher')).pending)
    for (const step of acts) await act({ act: 'commit', deviceId: 'switcher', step });
  expect([await stop(), (await face('switcher'))['on air']]).toEqual([undefined, '5']);
});

test('out of its box it is reached by IPv6, even where the address of its box is the planned one and IPv6 is to be off', async () => {
  const show = demoShow();
  const [camera, row] = [show.devices['camera-1'], show.addresses['control-camera-1-lan']];
  const ip = show.types['pan-tilt-camera']?.factory.ip ?? expect.fail('no factory address');
  const planned = {
    ...show,
    devices: { ...show.devices, 'camera-1': { ...(camera ?? expect.fail('no camera')), ipv6: 'off' as const } },
    addresses: { ...show.addresses, 'control-camera-1-lan': { ...(row ?? expect.fail('no address')), ip } },
    // its menu is then the same to a letter
    networks: {
      ...show.networks,
      control: { ...(show.networks['control'] ?? expect.fail()), vlan: null, gateway: null },
    },
  };
  const { bench, act } = await demoBench(planned);
  await act({ act: 'factory', deviceIds: ['camera-1'] });
  const ways = await bench.handle({ kind: 'ways', showId: planned.id, deviceId: 'camera-1' });
  expect((ways as contract.WayNow[]).find(({ way }) => way === 'web')).toMatchObject({ works: true });
});

test('a camera out of its case asks for an administrator before it does anything', async () => {
  const { act, unit, sounding } = await demoBench();
  await act({ act: 'factory', deviceIds: ['camera-1'] });
  await act({ act: 'key_in', deviceId: 'camera-1', change: address('lan', '10.61.20.31') });
  await act({ act: 'commit', deviceId: 'camera-1', step: 'confirm_page' });
  await act({ act: 'commit', deviceId: 'camera-1', step: 'restart_device' });
  await act({ act: 'update', deviceId: 'camera-1', firmware: '2.1' });
  const stop = async () => (await sounding('remote-to-camera-1')).layers.find(({ state }) => state === 'fail')?.code;
  expect([await stop(), lineOf(await unit('camera-1'), 'sign-in')]).toEqual([
    'first_sign_in',
    'asks for an administrator first',
  ]);
  const login = { of: 'service', key: 'web', login: 'digest', account: 'ops', password: 'lantern-tide-31' } as const;
  await act({ act: 'key_in', deviceId: 'camera-1', change: login });
  expect(await stop()).toBe('first_sign_in');
  await act({ act: 'commit', deviceId: 'camera-1', step: 'confirm_page' });
  await act({ act: 'commit', deviceId: 'camera-1', step: 'restart_device' });
  // it was away for a moment: its remote, which looks up once, has lost it
  expect(await stop()).toBe('looked_up');
  await act({ act: 'look_up_again', deviceId: 'remote' });
  expect(await stop()).toBeUndefined();
});

test('of several ways to a unit each says whether it is open now, and from where, or what it needs', async () => {
  const { bench, show, act } = await demoBench();
  const ways = async (deviceId: string) => {
    const told = (await bench.handle({ kind: 'ways', showId: show.id, deviceId })) as contract.WayNow[];
    return told.map(({ way, works, from, needs }) => [way, works, from !== null, needs === '']);
  };
  expect(await ways('camera-1')).toEqual([
    ['web', true, true, true],
    ['search', true, true, true],
    ['menu', true, false, true],
  ]);
  // straight from its case nobody is in its range: its page opens at the address that it formed itself, without one of ours
  await act({ act: 'factory', deviceIds: ['camera-1'] });
  expect(await ways('camera-1')).toEqual([
    ['web', true, true, true],
    ['search', true, true, true],
    ['menu', true, false, true],
  ]);
  expect([await ways('amp-1'), await ways('nobody')]).toEqual([[['program', false, false, false]], []]);
});

test('its administrator is made in one act, with the account of the plan, and only once', async () => {
  const { act, unit, sounding } = await demoBench();
  const make = () => act({ act: 'make_administrator', deviceId: 'camera-1' });
  // asked once more, it is done already
  await make();
  await act({ act: 'factory', deviceIds: ['camera-1'] });
  await act({ act: 'key_in', deviceId: 'camera-1', change: address('lan', '10.61.20.31') });
  await act({ act: 'commit', deviceId: 'camera-1', step: 'confirm_page' });
  await act({ act: 'commit', deviceId: 'camera-1', step: 'restart_device' });
  await act({ act: 'update', deviceId: 'camera-1', firmware: '2.1' });
  await make();
  expect(lineOf(await unit('camera-1'), 'sign-in')).toBeUndefined();
  // it was away for its update: its remote, which looks up once, has lost it
  await sounding('remote-to-camera-1');
  await act({ act: 'look_up_again', deviceId: 'remote' });
  expect((await sounding('remote-to-camera-1')).layers.find(({ state }) => state === 'fail')).toBeUndefined();
  // the power does not take it away, and another reset does
  await act({ act: 'restart', deviceIds: ['camera-1'] });
  expect(lineOf(await unit('camera-1'), 'sign-in')).toBeUndefined();
  await act({ act: 'factory', deviceIds: ['camera-1'] });
  expect(lineOf(await unit('camera-1'), 'sign-in')).toBe('asks for an administrator first');
});

test('what is done at a unit itself arrives at its remote, and a link is proven both ways', async () => {
  const { act, face, sounding } = await demoBench();
  const move = {
    act: 'touch',
    deviceId: 'mixer',
    serviceKey: 'osc',
    command: 'channel-level',
    args: [2, -20],
  } as const;
  await act(move);
  expect((await face('mixer'))['fader 2']).toBe('-20 dB');
  const both = await sounding('faders-left-to-mixer');
  expect([both.back?.came, both.back?.told, (both.back?.ms ?? 0) > 0]).toEqual([true, '/mixer/channel/3/level', true]);
  expect((await face('faders-left'))['fader 3']).toBe('-6 dB');
  // nobody told the camera where to send, so there is no other direction
  expect((await sounding('remote-to-camera-1')).back).toBeNull();
  await expect(act({ ...move, command: 'nothing' })).rejects.toThrow('nothing like that');
  const item = { act: 'touch', deviceId: 'media', serviceKey: 'osc', command: 'go-to', args: [4] } as const;
  await act({ act: 'application', deviceId: 'media', state: 'closed' });
  await expect(act(item)).rejects.toThrow('its application is closed');
  await act({ act: 'application', deviceId: 'media', state: 'no_show' });
  await expect(act(item)).rejects.toThrow('no show is open');
  await act({ act: 'key_in', deviceId: 'desk', change: { of: 'service', key: 'osc', sendTo: '10.61.20.22' } });
  expect((await sounding('host-to-desk')).layers.find(({ state }) => state === 'fail')?.layer).toBe('reply');
});

test('the other direction is proven over a session of MIDI, a line of text and packets on a stream as well', async () => {
  const { act, sounding, site, show } = await demoBench();
  const ways = Object.values(show.links).map(({ id, targetId, serviceKey, command }) => {
    const service = site()
      .standins.get(targetId)
      ?.type.services.find(({ key }) => key === serviceKey);
    const tells = service?.commands.find(({ key }) => key === command)?.reply != null;
    return { id, kind: `${service?.protocol} ${service?.transport}`, tells };
  });
  const proven: string[] = [];
  for (const { id, kind, tells } of ways) {
    const { back, layers } = await sounding(id);
    if (layers.some(({ state }) => state === 'fail') || !tells) continue;
    // a page never tells anything by itself
    if (kind.startsWith('http')) expect([id, back]).toEqual([id, null]);
    else if (back?.came) proven.push(kind);
  }
  expect([...new Set(proven)].sort()).toEqual(['midi udp', 'osc udp', 'text tcp']);
  // what nobody listens to any more is told to nobody
  await act({ act: 'application', deviceId: 'mixer', state: 'closed' });
  expect(site().standins.get('mixer')?.tellers.size).toBe(0);
});

test('a computer lists what is joined to it: by USB to it alone, else over the network, by numbers of its own', async () => {
  const show = demoShow();
  const usb = (id: string, to: string) => ({
    ...(show.cables['c-desk-port-1'] as core.Cable),
    ...{ id: `usb-${id}`, fromDevice: id, fromSocket: 'usb', toDevice: to, toSocket: 'usb', medium: 'usb', lengthM: 2 },
  });
  const types = Object.fromEntries(
    Object.values(show.types).map((type) => [
      type.id,
      {
        ...type,
        sockets: [
          ...type.sockets.filter(({ key }) => key !== 'usb'),
          {
            key: 'usb',
            label: 'USB',
            adapter: null,
            role: 'setup',
            connector: 'usb',
            rateMbps: null,
            direction: null,
          } as const,
        ],
      },
    ]),
  );
  const cables = { ...show.cables, 'usb-faders-left': usb('faders-left', 'laptop') as core.Cable };
  const { unit, act } = await demoBench({ ...show, types, cables });
  const listed = async (id: string) => (await unit(id)).endpoints.map(({ name }) => name);
  const [laptop, media] = [await listed('laptop'), await listed('media')];
  expect(laptop.length).toBe(media.length + 2);
  // numbers of one computer say nothing about another
  expect(laptop.filter((name) => media.includes(name))).toEqual([]);
  await act({ act: 'set_fault', kind: 'cable_out', deviceId: 'faders-right' });
  expect([(await listed('laptop')).length, (await listed('media')).length]).toEqual([
    laptop.length - 2,
    media.length - 2,
  ]);
});

test('a run that is too long has no lamps, and units in a chain are gone with the one in the middle', async () => {
  const show = demoShow();
  const cables = { ...show.cables };
  const long = cables['c-camera-3-port-1'] as core.Cable;
  cables[long.id] = { ...long, lengthM: 140 };
  // amplifiers 5 and 6 hang on amplifier 4, one after the other
  for (const [id, to] of [
    ['amp-5', 'amp-4'],
    ['amp-6', 'amp-5'],
  ] as const) {
    const own = cables[`c-${id}-port-1`] as core.Cable;
    cables[own.id] = { ...own, toDevice: to, toSocket: 'port-2' };
  }
  const row = show.addresses['audio-amp-6-lan'] as core.Address;
  const addresses = { ...show.addresses, [row.id]: { ...row, ip: '10.61.30.46' } };
  const { site, power, sounding } = await demoBench({ ...show, cables, addresses });
  expect((await sounding('remote-to-camera-3')).layers[0]).toMatchObject({ state: 'fail', code: 'down' });
  const rack = site().standins.get('stage-rack')?.host;
  const answers = async (last: number) => (await rack?.ping(0x0a3d1e00 + last)) !== undefined;
  expect([await answers(44), await answers(45), await answers(46)]).toEqual([true, true, true]);
  await power('amp-5', false);
  expect([await answers(44), await answers(45), await answers(46)]).toEqual([true, false, false]);
});

test('what has to run beside a unit is quit and started again; meanwhile its controls do nothing', async () => {
  const { act, unit, sounding } = await demoBench(withHelper());
  const stop = async () => (await sounding('host-to-desk')).layers.find(({ state }) => state === 'fail')?.code;
  expect((await unit('host')).helper).toEqual({ name: 'audio driver', runs: true });
  await act({ act: 'helper', deviceId: 'host', on: false });
  expect([(await unit('host')).helper?.runs, await stop()]).toEqual([false, 'helper']);
  await act({ act: 'helper', deviceId: 'host', on: true });
  expect([await stop(), (await unit('desk')).helper]).toEqual([undefined, null]);
});

test('generators of the units themselves show a picture whatever is plugged in', async () => {
  const { act, face, power } = await demoBench();
  for (const id of ['deck-a', 'deck-b', 'host']) await power(id, false);
  const at = (deviceId: string, command: string, args: (string | boolean)[]) =>
    act({ act: 'touch', deviceId, serviceKey: 'web', command, args });
  await at('camera-1', 'bars', [true]);
  await at('switcher', 'fill', ['green']);
  await at('led-quay', 'picture', ['grid']);
  expect([
    (await face('camera-1'))['bars'],
    (await face('switcher'))['on air'],
    (await face('led-quay'))['picture'],
  ]).toEqual(['true', 'green fill', 'grid']);
});

test('a spare stands in the place of a unit as it comes out of its case, and what was measured is of the other one', async () => {
  const { bench, show, unit, stop } = await demoBench();
  const link = 'host-to-desk';
  expect(await stop(link)).toBe('bottom');
  const change = rig.planSwap(show, show.devices['desk'] ?? expect.fail(), { mac: null, serial: 'S9', firmware: null });
  const changes = change ? [{ ...change, rev: show.rev + 1 }] : [];
  await bench.handle({ kind: 'follow', showId: show.id, changes, passwords: null });
  const box = await unit('desk');
  expect([box.settings.followsPlan, box.powered, box.settings.addresses[0]?.ip]).toEqual([false, false, '10.88.0.60']);
  await bench.handle({ kind: 'power', showId: show.id, deviceIds: ['desk'], on: true });
  expect(await stop(link)).not.toBe('bottom');
});
