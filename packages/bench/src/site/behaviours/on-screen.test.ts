import { onair, show as core, type Show } from '@deep-patch/core';
import { afterEach, expect, test } from 'vitest';
import { demoBench, stopBenches, tuned } from '../../demo-bench.test-data.ts';

afterEach(stopBenches);

/** A channel of the gateway on input 6, its picture led there, where another gateway reports the same names. */
function withCaller(): Show {
  const show = tuned();
  const cable = core.contentWith('cables', {
    ...{ id: 'call', fromDevice: 'callers', fromSocket: 'out-1', toDevice: 'switcher', toSocket: 'in-6' },
    ...{ medium: 'copper', lengthM: 3 },
  });
  const rule = core.contentWith('inputRules', { id: 'r6', switcherId: 'switcher', input: 6, channel: 'Channel 2' });
  const gateway = show.devices['callers'] ?? expect.fail('no gateway');
  return {
    ...show,
    devices: { 'a-gateway': { ...gateway, id: 'a-gateway', name: 'Another' }, ...show.devices },
    cables: { ...show.cables, call: { ...cable, rev: 1 } },
    inputRules: { ...show.inputRules, r6: { ...rule, rev: 1 } },
  };
}

test('who calls in is on air with the input of the channel, hangs up there, and is gone with the power', async () => {
  const { act, face, power } = await demoBench(withCaller());
  const call = (caller: string, channel = 'Channel 2', deviceId = 'callers') =>
    act({ act: 'call', deviceId, channel, caller });
  const cut = (input: number) =>
    act({ act: 'touch', deviceId: 'switcher', serviceKey: 'web', command: 'cut', args: [input] });
  const seen = async () => [(await face('callers'))['Channel 2'], (await face('switcher'))['caller']];
  await call('Rosa Lindquist');
  // on another gateway a channel of that name is another channel
  await call('Somebody else', 'Channel 2', 'a-gateway');
  expect(await seen()).toEqual(['Rosa Lindquist', '—']);
  await cut(6);
  expect(await seen()).toEqual(['Rosa Lindquist', 'Rosa Lindquist']);
  await call('');
  expect(await seen()).toEqual(['nobody', 'nobody']);
  await call('Jury boat');
  await cut(1);
  expect(await seen()).toEqual(['Jury boat', '—']);
  await expect(call('Rosa', 'Channel 9')).rejects.toThrow('no channel “Channel 9”');
  await expect(call('Rosa', 'Channel 2', 'switcher')).rejects.toThrow('takes no calls');
  await power('callers', false);
  await expect(call('Rosa')).rejects.toThrow('not switched on');
  await power('callers', true);
  expect((await face('callers'))['Channel 2']).toBe('nobody');
});

test('what is ruled while the bench runs counts at once: a channel for an input, and another list', async () => {
  const show = withCaller();
  const { act, face, bench } = await demoBench({ ...show, inputRules: {} });
  const rule = (input: number, patch: object, rev: number) => {
    const id = `r${input}`;
    const after = core.contentWith('inputRules', { id, switcherId: 'switcher', input, ...patch });
    const change = { ...core.changeOf('rule', [core.insertRow('inputRules', after)]), rev };
    return bench.handle({ kind: 'follow', showId: show.id, changes: [change as never], passwords: null });
  };
  await act({ act: 'call', deviceId: 'callers', channel: 'Channel 2', caller: 'Jury boat' });
  await act({ act: 'touch', deviceId: 'switcher', serviceKey: 'web', command: 'cut', args: [6] });
  const seen = async () => [(await face('switcher'))['caller'], (await face('deck-a'))['list']];
  expect(await seen()).toEqual([undefined, 'Harbour']);
  await rule(6, { channel: 'Channel 2' }, show.rev + 1);
  await rule(5, { offers: 'fixed', list: 'Sailors' }, show.rev + 2);
  expect(await seen()).toEqual(['Jury boat', 'Sailors']);
});

test('one step is seen on every output of linked machines, on each in its own form', async () => {
  const show = tuned();
  const shown = (id: string, form: core.OutputForm) => ({
    ...(show.devices[id] ?? expect.fail(id)),
    outputs: [{ socket: 'screen-out', form }],
  });
  const [quay, marquee] = [shown('lyrics-quay', 'band'), shown('lyrics-marquee', 'with_next')];
  const row = show.addresses['control-lyrics-marquee-lan'] ?? expect.fail('no address');
  const { sounding, face, eventually } = await demoBench({
    ...show,
    devices: { ...show.devices, [quay.id]: quay, [marquee.id]: marquee },
    addresses: { ...show.addresses, [row.id]: { ...row, ip: '10.61.20.73' } },
  });
  expect((await face('lyrics-quay'))['screen out']).toBe('dark');
  await sounding('host-to-lyrics-quay');
  expect((await face('lyrics-quay'))['screen out']).toBe('band with item 1');
  expect(await eventually(async () => (await face('lyrics-marquee'))['screen out'] === 'item 1, then 2')).toBe(true);
  expect(onair.outputWords('words', 7)).toBe('words of item 7');
});
