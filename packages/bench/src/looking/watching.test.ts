import { contract, links as coreLinks, type show as core } from '@deep-patch/core';
import { demoPasswords, demoShow } from '@deep-patch/demo';
import { afterEach, describe, expect, test } from 'vitest';
import type { BenchEvent } from '../bench.ts';
import { demoBench, stopBenches } from '../demo-bench.test-data.ts';

afterEach(stopBenches);

describe('why a unit is not found', () => {
  const first = async (bench: Awaited<ReturnType<typeof demoBench>>, deviceId: string) => {
    const { looking } = await bench.act({ act: 'look_for', deviceId });
    const failed = looking?.checks.filter(({ state }) => state === 'fail') ?? [];
    expect(failed.length).toBeLessThan(2);
    // what comes after the first that fails waits, what comes before it passed
    const at = looking?.checks.findIndex(({ state }) => state === 'fail') ?? -1;
    if (at >= 0)
      expect(looking?.checks.map(({ state }) => state)).toEqual(
        looking?.checks.map((_, n) => (n < at ? 'pass' : n === at ? 'fail' : 'waits')),
      );
    return failed[0]?.key ?? 'found';
  };
  const cases: readonly [core.FaultKind, deviceId: string, contract.LookingKey][] = [
    ['power_off', 'desk', 'power'],
    ['cable_out', 'desk', 'cable'],
    ['cable_out', 'laptop', 'own_cable'],
    ['wrong_vlan', 'desk', 'segment'],
    ['cable_swapped', 'host', 'segment'],
    ['factory_reset', 'desk', 'as_planned'],
    ['wrong_mask', 'laptop', 'own_subnet'],
    ['wrong_mask', 'desk', 'mask_back'],
    ['second_unit', 'desk', 'one_owner'],
    ['old_firmware', 'camera-1', 'version'],
    ['firewall_on', 'media', 'firewall'],
  ];
  test.each(cases)('%s at %s fails at %s, and is found again once mended', async (kind, deviceId, wanted) => {
    const bench = await demoBench();
    const looked = deviceId === 'laptop' ? 'desk' : deviceId;
    expect(await first(bench, looked)).toBe('found');
    await bench.act({ act: 'set_fault', kind, deviceId });
    expect(await first(bench, looked)).toBe(wanted);
    const [fault] = (await bench.state()).faults;
    await bench.act({ act: 'clear_fault', id: fault?.id ?? '' });
    expect(await first(bench, looked)).toBe('found');
    for (const check of (await bench.state()).looking?.checks ?? [])
      expect(coreLinks.lookingWords(check).looks).not.toBe('');
  });

  test('swapped cables are told as that, a second cable is no help, and a firewall that lets services in is not the end', async () => {
    const bench = await demoBench();
    const check = async (deviceId: string, key: contract.LookingKey) =>
      (await bench.act({ act: 'look_for', deviceId })).looking?.checks.find((one) => one.key === key);
    await bench.act({ act: 'set_fault', kind: 'cable_swapped', deviceId: 'host' });
    const swapped = (await check('host', 'segment')) ?? expect.fail('not looked');
    expect(coreLinks.lookingWords(swapped).fails).toContain('the cables are swapped');
    await bench.act({ act: 'clear_fault', id: (await bench.state()).faults[0]?.id ?? '' });
    // both ends are told; with so narrow a mask the computer has the name of a network for an address
    await bench.act({ act: 'set_fault', kind: 'wrong_mask', deviceId: 'laptop' });
    const apart = await check('desk', 'own_subnet');
    expect(apart?.facts).toEqual({ ip: '10.61.20.61 /24', own: 'no address' });
    await bench.act({ act: 'clear_fault', id: (await bench.state()).faults[0]?.id ?? '' });
    // its audio adapter is still plugged in
    await bench.act({ act: 'set_fault', kind: 'cable_out', deviceId: 'host' });
    expect(await first(bench, 'host')).toBe('cable');
    await bench.act({ act: 'clear_fault', id: (await bench.state()).faults[0]?.id ?? '' });
    await bench.act({ act: 'firewall', deviceId: 'media', on: true });
    expect(await first(bench, 'media')).toBe('firewall');
    const media = (await bench.unit('media')).settings.services.filter(({ enabled }) => enabled);
    for (const { key } of media) await bench.act({ act: 'allow', deviceId: 'media', serviceKey: key, on: true });
    expect((await check('media', 'firewall'))?.facts).toEqual({ by: 'services' });
  });

  test('of two faults the one that comes first in the order is told, whichever was set first', async () => {
    const bench = await demoBench();
    const order = contract.lookingKeys;
    const kinds = ['power_off', 'cable_out', 'wrong_vlan', 'factory_reset', 'wrong_mask', 'second_unit'] as const;
    const alone = new Map<core.FaultKind, contract.LookingKey>();
    const mend = async () => {
      for (const { id } of (await bench.state()).faults.toReversed()) await bench.act({ act: 'clear_fault', id });
      // what was still under way when it was mended has arrived
      await new Promise<void>((done) => void bench.site().scheduler.after(200, done));
    };
    for (const kind of kinds) {
      await bench.act({ act: 'set_fault', kind, deviceId: 'desk' });
      const found = await first(bench, 'desk');
      expect([kind, found]).not.toEqual([kind, 'found']);
      alone.set(kind, found as contract.LookingKey);
      await mend();
    }
    const place = (kind: core.FaultKind) => order.indexOf(alone.get(kind) ?? 'firewall');
    for (const one of kinds)
      for (const other of kinds) {
        // a unit without power takes nothing in, and a reset unit has lost the address that another could take
        if (one === other || one === 'power_off' || one === 'factory_reset') continue;
        // with so narrow a mask nobody else is on its network
        if (one === 'wrong_mask' && other === 'second_unit') continue;
        await bench.act({ act: 'set_fault', kind: one, deviceId: 'desk' });
        await bench.act({ act: 'set_fault', kind: other, deviceId: 'desk' });
        const wanted = order[Math.min(place(one), place(other))];
        expect([one, other, await first(bench, 'desk')]).toEqual([one, other, wanted]);
        await mend();
      }
    expect(await first(bench, 'desk')).toBe('found');
  });

  test('a unit whose cable was only just plugged in is searched for again before anything is concluded', async () => {
    const bench = await demoBench();
    expect(await first(bench, 'desk')).toBe('found');
    // the switch has noticed the link go, and notices it come back with the first frame of the search
    await bench.act({ act: 'set_fault', kind: 'cable_out', deviceId: 'desk' });
    await bench.sounding('host-to-desk');
    expect(await first(bench, 'desk')).toBe('cable');
    const site = bench.site();
    const place = [...(site.standins.get('switch-quay')?.bridge?.ports.values() ?? [])].find(
      ({ key }) => key === 'p-3',
    );
    expect(place && site.standins.get('switch-quay')?.bridge?.tree?.forwards(place)).toBe(false);
    await bench.act({ act: 'clear_fault', id: (await bench.state()).faults[0]?.id ?? '' });
    expect(await first(bench, 'desk')).toBe('found');
  });

  test('the computer that looks does not look for itself', async () => {
    const { act } = await demoBench();
    await expect(act({ act: 'look_for', deviceId: 'laptop' })).rejects.toThrow('the computer that looks');
  });
});

describe('links under watch', () => {
  test('a link that breaks and heals is told each time, with the layer; nothing else is', async () => {
    const { bench, act, state, eventually } = await demoBench();
    const told: BenchEvent[] = [];
    bench.tellEvents((event) => told.push(event));
    await act({ act: 'watch', everySeconds: 5 });
    const soundedOf = (linkId: string) =>
      told.flatMap((event) => (event.kind === 'sounded' && event.sounding.linkId === linkId ? [event.sounding] : []));
    expect(await eventually(async () => Promise.resolve(soundedOf('timecode-to-media').length > 0))).toBe(true);
    expect((await state()).watch).toEqual({ everySeconds: 5, changes: [] });
    await act({ act: 'set_fault', kind: 'cable_out', deviceId: 'desk' });
    expect(await eventually(async () => (await state()).watch.changes.length > 0)).toBe(true);
    await act({ act: 'clear_fault', id: (await state()).faults[0]?.id ?? '' });
    expect(await eventually(async () => (await state()).watch.changes.length > 1)).toBe(true);
    expect((await state()).watch.changes.map(({ linkId, from, to }) => [linkId, from, to])).toEqual([
      ['host-to-desk', null, 'cable'],
      ['host-to-desk', 'cable', null],
    ]);
    expect(soundedOf('host-to-desk')).toHaveLength(3);
    await act({ act: 'watch', everySeconds: null });
    expect((await state()).watch.everySeconds).toBeNull();
  });
});

test('watching operates nothing: no face moves, no command is done, and every round keeps its interval', async () => {
  const { act, state, site } = await demoBench();
  const made = site();
  const faces = () =>
    [...made.standins.values()].map(({ device, memory }) => [
      device.id,
      [...memory.face].filter(([parameter]) => parameter !== 'time code'),
      [...memory.served].filter(([, { done }]) => done > 0).map(([key, { done }]) => [key, done]),
    ]);
  await made.settled();
  await new Promise<void>((done) => void made.scheduler.after(3000, done));
  const before = faces();
  const lookedAt = new Map<string, number[]>();
  const soundQuietly = made.soundQuietly.bind(made);
  made.soundQuietly = (linkId) => {
    lookedAt.set(linkId, [...(lookedAt.get(linkId) ?? []), made.scheduler.now()]);
    return soundQuietly(linkId);
  };
  await act({ act: 'watch', everySeconds: 15 });
  await new Promise<void>((done) => void made.scheduler.after(62_000, done));
  await act({ act: 'watch', everySeconds: null });
  expect(faces()).toEqual(before);
  expect([...lookedAt.keys()].sort()).toEqual(Object.keys(made.plan.show.links).sort());
  const gaps = [...lookedAt.values()].flatMap((times) => times.slice(1).map((at, n) => at - (times[n] ?? 0)));
  expect([gaps.length >= 3 * lookedAt.size, Math.max(...gaps) < 20_000]).toEqual([true, true]);
  expect((await state()).watch.changes).toEqual([]);
});

test('after one end restarts, sessions come back by themselves and a switcher does not', async () => {
  const { face, power, eventually } = await demoBench();
  const timecode = async () => (await face('media'))['time code'];
  expect(await eventually(async () => /^00:/.test((await timecode()) ?? ''))).toBe(true);
  await power('media', false);
  await power('media', true);
  expect(await timecode()).toBe('none');
  expect(await eventually(async () => /^00:/.test((await timecode()) ?? ''))).toBe(true);
  await power('deck-a', false);
  const entry = async () => (await face('switcher'))['Playout A'];
  expect(await eventually(async () => (await entry()) === 'not found')).toBe(true);
  await power('deck-a', true);
  // ten seconds of the bench: a session is invited again after five
  await new Promise((done) => setTimeout(done, 50));
  expect(await entry()).toBe('not found');
});

describe('lamps of controllers', () => {
  test('each shows what it measures and no more: a carrier lamp stays lit while its target is off', async () => {
    const { unit, power, sounding, act, face, eventually, site, bench, show } = await demoBench();
    const pass = (ms: number) => new Promise<void>((done) => void site().scheduler.after(ms, done));
    const lamp = async (deviceId: string, linkId: string) =>
      (await unit(deviceId)).lamps.find((each) => each.linkId === linkId);
    await sounding('faders-left-to-mixer');
    await power('mixer', false);
    const measured = await sounding('faders-left-to-mixer');
    const carrier = await lamp('faders-left', 'faders-left-to-mixer');
    expect(carrier).toEqual({ linkId: 'faders-left-to-mixer', means: 'carrier', lit: true });
    const reading = coreLinks.statusAgainstEffect({ lit: true }, measured, { now: measured.at, changedSince: false });
    expect([reading.verdict, reading.stoppedAt]).toEqual(['misleading', 'cable']);
    // a lamp for data goes dark by itself although the link works
    const works = await sounding('host-to-desk');
    expect((await lamp('host', 'host-to-desk'))?.lit).toBe(true);
    expect(await eventually(async () => (await lamp('host', 'host-to-desk'))?.lit === false)).toBe(true);
    expect(coreLinks.statusAgainstEffect({ lit: false }, works, { now: works.at, changedSince: false }).verdict).toBe(
      'misleading',
    );
    // who looked once has lost a target that went away, however often it is back: lamp, sounding and a real cut say so
    expect(await eventually(async () => (await face('switcher'))['Playout A'] === 'connected')).toBe(true);
    const lost = async (deviceId: string, linkId: string) => [
      (await lamp(deviceId, linkId))?.lit,
      (await sounding(linkId)).layers.find(({ state }) => state === 'fail')?.code,
    ];
    expect(await lost('remote', 'remote-to-camera-1')).toEqual([false, undefined]);
    expect((await lamp('remote', 'remote-to-camera-1'))?.lit).toBe(true);
    for (const id of ['deck-a', 'camera-1']) {
      await power(id, false);
      await power(id, true);
    }
    expect(await lost('switcher', 'switcher-to-deck-a')).toEqual([false, 'looked_up']);
    // neither a saved plan nor another entry at it looks the target up again
    await bench.handle({ kind: 'load', plan: { show: { ...show, rev: 2 }, passwords: demoPasswords } });
    await pass(2000);
    expect(await lost('switcher', 'switcher-to-deck-a')).toEqual([false, 'looked_up']);
    expect(await lost('remote', 'remote-to-camera-1')).toEqual([false, 'looked_up']);
    await act({ act: 'touch', deviceId: 'switcher', serviceKey: 'web', command: 'cut', args: [5] });
    await pass(200);
    expect((await face('deck-a'))['clip']).toBe('ready');
    for (const deviceId of ['switcher', 'remote']) await act({ act: 'look_up_again', deviceId });
    expect(await eventually(async () => (await face('switcher'))['Playout A'] === 'connected')).toBe(true);
    expect((await lost('switcher', 'switcher-to-deck-a'))[1]).toBeUndefined();
    expect((await lost('remote', 'remote-to-camera-1'))[1]).toBeUndefined();
    await act({ act: 'touch', deviceId: 'switcher', serviceKey: 'web', command: 'cut', args: [5] });
    expect(await eventually(async () => (await face('deck-a'))['clip'] === 'playing 1')).toBe(true);
    await power('remote', false);
    expect((await unit('remote')).lamps).toEqual([]);
  });
});

describe('a scripted rehearsal', () => {
  const script: contract.RehearsalScript = {
    title: 'Dress rehearsal',
    steps: [
      { atSeconds: 0, untilSeconds: null, kind: 'cable_out', deviceId: 'desk', hidden: true },
      { atSeconds: 1, untilSeconds: 3, kind: 'power_off', deviceId: 'recorder', hidden: false },
      { atSeconds: 2, untilSeconds: null, kind: 'loop', deviceId: 'desk', hidden: true },
    ],
  };

  test('faults come at their times; what is hidden is not told, is found by its name, and is mended', async () => {
    const { act, state, stop, unit, eventually } = await demoBench();
    await act({ act: 'play_script', script });
    const steps = async () => (await state()).script?.steps ?? [];
    expect(await eventually(async () => (await steps())[2]?.state === 'refused')).toBe(true);
    expect((await steps())[0]).toMatchObject({ hidden: true, state: 'set', kind: null, deviceId: null });
    expect((await state()).faults.some(({ kind }) => kind === 'cable_out')).toBe(false);
    expect(await stop('host-to-desk')).toBe('cable');
    await act({ act: 'script_guess', kind: 'power_off', deviceId: 'desk' });
    const found = await act({ act: 'script_guess', kind: 'cable_out', deviceId: 'desk' });
    expect(found.script?.steps[0]).toMatchObject({ state: 'found', kind: 'cable_out', deviceId: 'desk' });
    expect([found.script?.wrong, await stop('host-to-desk')]).toEqual([1, 'bottom']);
    expect(await eventually(async () => (await steps())[1]?.state === 'cleared')).toBe(true);
    const over = await state();
    expect([over.script?.over, (await unit('recorder')).powered, over.script?.steps[2]?.reason]).toEqual([
      true,
      true,
      'it takes a switch',
    ]);
    expect((await act({ act: 'close_script' })).script).toBeNull();
  });

  test('ended early it mends what it set and sets nothing more', async () => {
    const { act, stop, state } = await demoBench();
    await act({ act: 'play_script', script: { title: 'Short', steps: [...script.steps.slice(0, 1)] } });
    expect(await stop('host-to-desk')).toBe('cable');
    const over = await act({ act: 'end_script' });
    expect([over.script?.over, over.script?.steps[0]?.state, await stop('host-to-desk')]).toEqual([
      true,
      'cleared',
      'bottom',
    ]);
    await act({ act: 'close_script' });
    expect((await state()).script).toBeNull();
  });

  test('a script for another show is refused as a whole', async () => {
    const { act, state } = await demoBench();
    const steps = script.steps.map((step, at) => (at === 1 ? step : { ...step, deviceId: 'elsewhere' }));
    await expect(act({ act: 'play_script', script: { title: 'x', steps } })).rejects.toThrow('step 1, step 3');
    expect((await state()).script).toBeNull();
  });
});

test('connecting one unit at a time tells its endpoints apart, and a name stays with each', async () => {
  const { act, unit, power } = await demoBench(demoShow());
  await power('faders-right', false);
  const names = async () => (await unit('laptop')).endpoints.map(({ name }) => name);
  const before = await names();
  await power('faders-right', true);
  const { newInputs, newOutputs, vanished } = coreLinks.endpointDifference(before, await names());
  expect([newInputs.length, newOutputs.length, vanished]).toEqual([1, 1, []]);
  const [input = ''] = newInputs;
  await act({ act: 'name_endpoint', deviceId: 'laptop', endpoint: input, called: 'Right faders' });
  expect((await unit('laptop')).endpoints).toContainEqual({ name: input, called: 'Right faders' });
  const stranger = act({ act: 'name_endpoint', deviceId: 'laptop', endpoint: 'in 0', called: 'x' });
  await expect(stranger).rejects.toThrow('lists no endpoint');
  await power('faders-right', false);
  expect(coreLinks.endpointDifference(await names(), before).vanished).toEqual([]);
  expect(await names()).not.toContain(input);
});
