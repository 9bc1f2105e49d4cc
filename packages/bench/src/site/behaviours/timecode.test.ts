import { CaptureReader, readDatagram, readMtc, readRtpMidi } from '@deep-patch/codecs';
import { show as core, timecode, type Show } from '@deep-patch/core';
import { demoShow, typeLibrary } from '@deep-patch/demo';
import { afterEach, expect, test } from 'vitest';
import { demoBench, stopBenches, tuned } from '../../demo-bench.test-data.ts';

afterEach(stopBenches);

type Rows<T extends core.TableName> = Readonly<Record<string, core.Row<T>>>;
const byId = <T extends core.TableName>(rows: readonly core.Content<T>[]): Rows<T> =>
  Object.fromEntries(rows.map((row) => [row.id, { ...row, rev: 1 }]));

/** The demo with a box on the quay that hears linear time code and gives it to a display over a cable. */
function withStairs(rate: core.RateKey, patch: Partial<core.Content<'timeHops'>> = {}): Show {
  const show = tuned();
  const unit = (id: string, typeId: string, own: core.RateKey | null = null) =>
    core.filledRow('devices', {
      id,
      typeId,
      name: id,
      unit: null,
      place: 'Quay stage',
      firmware: null,
      note: '',
      rate: own,
    });
  const hop = (id: string, fromId: string, toId: string, format: core.TimeFormat) => ({
    ...core.contentWith('timeHops', { id, fromId, toId, format, ...patch }),
  });
  const source = show.devices['timecode'];
  if (!source) throw new Error('no source');
  const types = Object.fromEntries(typeLibrary.map((type) => [type.id, { ...type, rev: 1 }]));
  return {
    ...show,
    types,
    devices: {
      ...show.devices,
      timecode: { ...source, rate },
      ...byId<'devices'>([unit('box', 'timecode-interface'), unit('clock-face', 'timecode-display')]),
    },
    timeHops: byId<'timeHops'>([hop('one', 'timecode', 'box', 'linear'), hop('two', 'box', 'clock-face', 'linear')]),
  };
}

test.each(['24', '25', '29.97df', '30'] as const)(
  'linear time code at %s goes as sound down a stair of hops, each a frame behind the one before at most',
  async (key) => {
    const { site, face, eventually } = await demoBench(withStairs(key));
    const digits = async (id: string) => (await face(id))['time code'] ?? '';
    expect(await eventually(async () => /^00:00:/.test(await digits('clock-face')))).toBe(true);
    const rate = timecode.rates[key];
    await new Promise<void>((done) => void site().scheduler.after(5000, done));
    const frames = ['timecode', 'box', 'clock-face'].map((id) => {
      const words = site().standins.get(id)?.memory.face.get('time code') ?? '';
      const read = timecode.readTime(words, rate);
      return 'fault' in read ? NaN : timecode.framesOf(read.time, rate);
    });
    const [source = NaN, box = NaN, display = NaN] = frames;
    expect(source).toBeGreaterThan(4 * rate.counts);
    expect([source - box, box - display].map((behind) => behind >= -1 && behind <= 2)).toEqual([true, true]);
  },
);

test('a receiver hears a session by the name that it chose only, and a rate that it does not wait for not at all', async () => {
  const stands = async (show: Show) => {
    const { site } = await demoBench(show);
    await new Promise<void>((done) => void site().scheduler.after(20_000, done));
    return site().standins.get('media')?.memory.face.get('time code');
  };
  // as it comes, one capital is wrong
  expect(await stands(demoShow())).toBe('none');
  expect(await stands(tuned())).toMatch(/^00:00:/);
  const show = tuned();
  const media = show.devices['media'];
  if (!media) throw new Error('no media server');
  expect(await stands({ ...show, devices: { ...show.devices, media: { ...media, rate: '30' } } })).toBe('none');
});

/** The source tells the desk, and the desk the media server: every session entered at the giving end, or the last at the other. */
function passedOn(last: 'given' | 'fetched', hears: string): Show {
  const show = tuned();
  const patched = (id: string, patch: Partial<core.DeviceType>) => {
    const type = show.types[id] ?? expect.fail(`no type ${id}`);
    return { ...type, ...patch, drives: [...new Set([...type.drives, 'midi' as const])] };
  };
  const types = [patched('lighting-desk', {}), patched('media-server', {})];
  for (const type of types)
    type.timecode = { takes: ['network_midi'], gives: ['network_midi'], inputs: 1, makes: false };
  const link = (controllerId: string, targetId: string) =>
    core.contentWith('links', {
      ...{ id: `${controllerId}-${targetId}`, controllerId, targetId, serviceKey: 'timecode', slot: null },
      ...{ host: null, port: 5004, replyPort: null, account: null, secretId: null, command: 'source', args: [1] },
    });
  const hop = (id: string, fromId: string, toId: string, names: object) =>
    core.contentWith('timeHops', { id, fromId, toId, format: 'network_midi', ...names });
  const others = core.rowsOf(show, 'links').filter(({ controllerId }) => controllerId !== 'timecode');
  const desk = show.devices['desk'] ?? expect.fail('no desk');
  return {
    ...show,
    types: { ...show.types, ...Object.fromEntries(types.map((type) => [type.id, type])) },
    devices: { ...show.devices, desk: { ...desk, rate: null } },
    links: {
      ...Object.fromEntries(others.map((row) => [row.id, row])),
      ...byId<'links'>([link('timecode', 'desk'), last === 'given' ? link('desk', 'media') : link('media', 'desk')]),
    },
    timeHops: byId<'timeHops'>([
      hop('one', 'timecode', 'desk', {}),
      hop('two', 'desk', 'media', { says: 'Desk clock', hears }),
    ]),
  };
}

test.each([
  ['given', 'Desk clock'],
  ['given', 'Desk Clock'],
  ['fetched', 'Desk clock'],
  ['fetched', 'Desk Clock'],
] as const)(
  'a session that the second hop is %s by, heard as “%s”, runs or stands as the chain says',
  async (last, hears) => {
    const show = passedOn(last, hears);
    const [chain] = timecode.chainsOf(show);
    const faults = chain?.hops.flatMap((hop) => hop.faults.map(({ kind }) => kind));
    expect(faults).toEqual(hears === 'Desk clock' ? [] : ['name']);
    const { site } = await demoBench(show);
    await new Promise<void>((done) => void site().scheduler.after(20_000, done));
    const shown = ['desk', 'media'].map((id) => site().standins.get(id)?.memory.face.get('time code'));
    expect(shown).toEqual([expect.stringMatching(/^00:00:/), hears === 'Desk clock' ? shown[0] : 'none']);
  },
);

test('a source says its times without a jump, and each quarter frame when it is due', async () => {
  const { site } = await demoBench(tuned());
  await new Promise<void>((done) => void site().scheduler.after(60_000, done));
  const reader = new timecode.MidiReader();
  const capture = new CaptureReader((frame) => {
    const datagram = readDatagram(frame);
    const heard = datagram && readRtpMidi(datagram.bytes);
    if (!heard?.ok || heard.packet.kind !== 'midi') return;
    heard.packet.messages.forEach(({ bytes }, at, all) => {
      const piece = readMtc(bytes);
      const moment = (frame.atMs ?? 0) / 1000 - (all.length - 1 - at) * 0.01;
      if (piece?.kind === 'quarter') reader.quarter(moment, piece.piece, piece.value);
    });
  });
  capture.push(site().tap.capture('test'));
  const read = reader.reading();
  expect([read.quarters > 3000, read.missing, read.breaks]).toEqual([true, 0, []]);
  expect(read.jitter?.range).toBeLessThan(0.5);
});

test('what the source no longer says stands at the end of the stairs as well', async () => {
  const { power, face, eventually } = await demoBench(withStairs('25'));
  const digits = async (id: string) => (await face(id))['time code'] ?? '';
  expect(await eventually(async () => /^00:00:/.test(await digits('clock-face')))).toBe(true);
  await power('timecode', false);
  expect(await eventually(async () => (await digits('clock-face')) === 'none')).toBe(true);
  await power('timecode', true);
  expect(await eventually(async () => /^00:00:/.test(await digits('clock-face')))).toBe(true);
});
