import { createSocket } from 'node:dgram';
import { midiWords, readRtpMidi, writeMidiPacket, writeSession } from '@deep-patch/codecs';
import { show as core, surfaces, type contract, type Show } from '@deep-patch/core';
import { demoShow } from '@deep-patch/demo';
import { afterEach, describe, expect, test } from 'vitest';
import { demoBench, stopBenches } from './demo-bench.test-data.ts';
import { Lanes } from './surfaces/lanes.ts';

afterEach(stopBenches);

type Move = contract.Moves['moves'][number];
const move = (control: string, value: number, part: Move['part'] = 'whole'): Move => ({ control, part, value });

async function onBench(show: Show = demoShow()) {
  const bench = await demoBench(show);
  const { state, eventually } = bench;
  // it looks by itself at what starts cues, and at what moves
  bench.bench.tellEvents(() => undefined);
  const moves = (deviceId: string, ...list: Move[]) =>
    bench.bench.handle({ kind: 'moves', showId: show.id, moved: { deviceId, moves: list } });
  const panel = async (deviceId: string) => (await state()).panels.find((own) => own.deviceId === deviceId);
  const control = async (deviceId: string, key: string, part: Move['part'] = 'whole') =>
    (await panel(deviceId))?.controls.find((own) => own.control === key && own.part === part);
  const delivered = async (deviceId: string, key: string, part: Move['part'] = 'whole') => {
    await eventually(async () => (await control(deviceId, key, part))?.delivery != null);
    return (await control(deviceId, key, part))?.delivery;
  };
  return { ...bench, moves, panel, control, delivered };
}

const withRows = <T extends core.TableName>(show: Show, table: T, ...rows: core.Content<T>[]): Show => ({
  ...show,
  [table]: { ...show[table], ...Object.fromEntries(rows.map((row) => [row.id, { ...row, rev: 1 }])) },
});

describe('a control that is moved', () => {
  test('moves its channel to both end stops over OSC, and is told so by the mixer', async () => {
    const { moves, face, delivered, eventually } = await onBench();
    await moves('faders-left', move('fader-3', 0));
    expect(await delivered('faders-left', 'fader-3')).toMatchObject({ outcome: 'done', targetId: 'mixer' });
    expect((await face('mixer'))['fader 3']).toBe('-90 dB');
    await moves('faders-left', move('fader-3', 127));
    expect(await eventually(async () => (await face('mixer'))['fader 3'] === '10 dB')).toBe(true);
  });

  test('over a session of MIDI, as far as that bank reaches', async () => {
    const { moves, face, delivered } = await onBench();
    await moves('faders-right', move('fader-1', 100));
    expect(await delivered('faders-right', 'fader-1')).toMatchObject({
      outcome: 'done',
      sent: 'control-change 9 7 100',
    });
    expect((await face('mixer'))['fader 9']).toBe('100 of 127');
  });

  test('steers whichever camera is chosen, each axis for itself, and only that camera', async () => {
    const { moves, face, delivered, panel } = await onBench();
    await moves('remote', move('camera-2', 127), move('camera-2', 0), move('stick', 50, 'x'));
    expect(await delivered('remote', 'stick', 'x')).toMatchObject({ outcome: 'done', targetId: 'camera-2' });
    const [one, two] = [await face('camera-1'), await face('camera-2')];
    expect([one['pan'], two['pan'], two['tilt']]).toEqual(['0°', '45°', '0°']);
    expect((await panel('remote'))?.chosen).toEqual({ 'camera-1': 'camera-2' });
  });

  test('that its target refuses, or does not reach, says which of the two it is', async () => {
    const { moves, act, delivered, power, control, eventually } = await onBench();
    await act({ act: 'set_fault', kind: 'password_changed', deviceId: 'camera-1' });
    await moves('remote', move('position-1', 127));
    expect(await delivered('remote', 'position-1')).toMatchObject({ outcome: 'refused', why: 'stops at access' });
    await act({ act: 'application', deviceId: 'mixer', state: 'no_show' });
    await moves('faders-left', move('fader-1', 64));
    expect(await delivered('faders-left', 'fader-1')).toMatchObject({ outcome: 'refused' });
    await power('mixer', false);
    await moves('faders-left', move('fader-1', 65));
    const notArrived = async () => (await control('faders-left', 'fader-1'))?.delivery?.outcome === 'not_arrived';
    expect(await eventually(notArrived)).toBe(true);
    await power('faders-left', false);
    await expect(moves('faders-left', move('fader-1', 66))).rejects.toThrow('is not switched on');
    await expect(moves('remote', move('no-such', 1))).rejects.toThrow('has no control');
  });

  test('that waits for its parameter moves nothing until it comes past it', async () => {
    const show = demoShow();
    const row = show.assignments['left-main'] ?? expect.fail('no row');
    const waiting = { ...row, transfer: { ...(row.transfer ?? expect.fail()), pickUp: 'when_passed' as const } };
    const { moves, act, face, control, eventually } = await onBench(withRows(show, 'assignments', waiting));
    // it asked once, so the mixer tells it what others do
    await moves('faders-left', move('fader-1', 64));
    await eventually(async () => (await face('mixer'))['fader 1'] !== '0 dB');
    await act({ act: 'touch', deviceId: 'mixer', serviceKey: 'osc', command: 'main-level', args: [-40] });
    const hears = async () => (await control('faders-left', 'odd'))?.lamp?.says === '-40 dB';
    expect(await eventually(hears)).toBe(true);
    await moves('faders-left', move('odd', 0));
    expect((await control('faders-left', 'odd'))?.waits).toBe(true);
    await moves('faders-left', move('odd', 50));
    expect((await face('mixer'))['main']).toBe('-40 dB');
    await moves('faders-left', move('odd', 100));
    expect(await eventually(async () => (await face('mixer'))['main']?.startsWith('-11.2') ?? false)).toBe(true);
  });

  test('eight faders that move fast all end where they were left', async () => {
    const { moves, face, eventually } = await onBench();
    for (let n = 0; n <= 127; n += 1)
      await moves(
        'faders-left',
        ...Array.from({ length: 8 }, (_, at) => move(`fader-${at + 1}`, n === 127 ? 18 * at : n)),
      );
    const wanted = Array.from({ length: 8 }, (_, at) => -90 + ((18 * at) / 127) * 100);
    const levels = async () => {
      const shown = await face('mixer');
      return wanted.map((_, at) => parseFloat(shown[`fader ${at + 1}`] ?? ''));
    };
    expect(
      await eventually(async () => (await levels()).every((level, at) => Math.abs(level - (wanted[at] ?? 0)) < 0.01)),
    ).toBe(true);
  });

  test('two controllers that move one thing within a second are noticed', async () => {
    const show = demoShow();
    const bank = show.banks['bank-right'] ?? expect.fail('no bank');
    const link = show.links['faders-left-to-mixer'] ?? expect.fail('no link');
    const both = withRows(
      withRows(show, 'banks', { ...bank, serviceKey: 'osc', command: 'channel-level', level: 'level', offset: 0 }),
      'links',
      { ...link, id: 'right-osc', controllerId: 'faders-right' },
    );
    const { moves, delivered, state } = await onBench(both);
    await moves('faders-left', move('fader-1', 10));
    await moves('faders-right', move('fader-1', 100));
    await delivered('faders-right', 'fader-1');
    expect((await state()).stepped).toMatchObject({
      targetId: 'mixer',
      firstId: 'faders-left',
      secondId: 'faders-right',
    });
  });
});

test('teaching takes what moves next and ends by itself', async () => {
  const { act, moves, state } = await onBench();
  expect((await act({ act: 'teach', deviceId: 'faders-left' })).teaching).toMatchObject({ running: true, took: null });
  await moves('remote', move('lens', 40));
  const took = { kind: 'control', deviceId: 'remote', control: 'lens', part: 'whole' };
  expect((await state()).teaching).toMatchObject({ running: false, took });
});

/** The demo with a program on the technician's computer that has a link to the mixer. */
function withProgram(id: string, typeId: string): Show {
  const show = demoShow();
  const program = core.filledRow('devices', {
    ...{ id, typeId, name: id, place: '', unit: null, firmware: null, note: '', runsOn: 'laptop' },
  });
  const way = { ...(show.links['faders-left-to-mixer'] ?? expect.fail()), id: `${id}-to-mixer`, controllerId: id };
  return withRows(withRows(show, 'devices', program), 'links', way);
}

test('an editor that was brought into step with its mixer goes on showing what is done there, and only then (7.5)', async () => {
  const { act, face, state, eventually } = await onBench(withProgram('editor', 'mixer-editor'));
  // time passes two hundred times as fast here, and who asked a minute of it ago is told no more
  const main = (value: number) =>
    eventually(async () => {
      await act({ act: 'touch', deviceId: 'mixer', serviceKey: 'osc', command: 'main-level', args: [value] });
      return (await face('editor'))['main'] === `${value} dB`;
    });
  const pair = { fromId: 'editor', toId: 'mixer' };
  await act({ act: 'compare', ...pair });
  expect((await state()).partners?.items.some(({ from, to }) => from !== to)).toBe(true);
  for (let times = 0; times < 15; times += 1) {
    await act({ act: 'touch', deviceId: 'mixer', serviceKey: 'osc', command: 'main-level', args: [-20] });
    await new Promise((done) => setTimeout(done, 20));
    expect((await face('editor'))['main']).not.toBe('-20 dB');
  }
  await act({ act: 'synchronise', ...pair });
  // it asks to be told by itself, without anything being moved at it
  expect([await main(-31), await main(-12)]).toEqual([true, true]);
  // what is selected in the one view is selected in the other
  const selected = async () => {
    await act({ act: 'touch', deviceId: 'mixer', serviceKey: 'osc', command: 'select', args: [7] });
    return (await face('editor'))['selected'] === '7';
  };
  expect(await eventually(selected)).toBe(true);
  // and the other way round: what is done at the editor is done at the mixer, and shows at both
  const up = { targetId: 'mixer', serviceKey: 'osc', command: 'main-level', args: [5], typed: '' };
  await act({ act: 'send_message', controllerId: 'editor', ...up });
  expect((await face('mixer'))['main']).toBe('5 dB');
  expect(await eventually(async () => (await face('editor'))['main'] === '5 dB')).toBe(true);
});

test('a MIDI controller from outside teaches its fader, moves a mixer with it to both end stops, and is moved back', async () => {
  const service = core.filledRow('services', {
    ...{ id: 'pages-midi', deviceId: 'pages', key: 'midi', enabled: true, receivePort: 5004, sendPort: null },
    ...{ sendTo: null, account: null, secretId: null },
  });
  const rigged = withRows(withProgram('pages', 'touch-pages'), 'services', service);
  const made = await onBench(rigged);
  const { bench, act, state, face, eventually } = made;
  const jack = { kind: 'jack', showId: rigged.id, deviceId: 'pages', serviceKey: 'midi', replyTo: null } as const;
  const opened = (await bench.handle(jack)) as contract.BenchState;
  const outside = await midiOutside(opened.jacks.at(-1)?.port ?? 0);
  await act({ act: 'teach', deviceId: 'pages' });
  await outside.join();
  for (const value of [3, 64, 120]) outside.send([0xb0, 21, value]);
  await eventually(async () => (await state()).teaching?.running === false);
  const { took } = (await state()).teaching ?? expect.fail('nobody was taught');
  expect(took).toEqual({ kind: 'address', address: 'control-change 1 21', least: 3, greatest: 120 });
  if (took?.kind !== 'address') expect.fail();
  const device = rigged.devices['pages'] ?? expect.fail();
  const control = surfaces.controlFrom(rigged, device, 'cc-21', took);
  const assigned = core.filledRow('assignments', {
    ...{ id: 'cc-main', deviceId: 'pages', control: 'cc-21', targetId: 'mixer', serviceKey: 'osc' },
    ...{ command: 'main-level', args: [0], drives: 'level' },
    transfer: core.schemas.assignments.shape.transfer.parse({ fromMin: 3, fromMax: 120, toMin: -90, toMax: 10 }),
  });
  const edits = [core.insertRow('controls', control), core.insertRow('assignments', assigned)];
  const change = { label: 'Teach a fader', edits, rev: rigged.rev + 1 };
  await bench.handle({ kind: 'follow', showId: rigged.id, changes: [change], passwords: null });
  for (const [value, level] of [
    [120, '10 dB'],
    [3, '-90 dB'],
  ] as const) {
    await outside.join();
    outside.send([0xb0, 21, value]);
    expect(await eventually(async () => (await face('mixer'))['main'] === level)).toBe(true);
  }
  await outside.join();
  await act({ act: 'touch', deviceId: 'mixer', serviceKey: 'osc', command: 'main-level', args: [-40] });
  // half of the way: 3 + 117 / 2 = 61.5
  expect(
    await eventually(() => Promise.resolve(outside.heard.some((text) => /^control-change 1 21 6[12]$/.test(text)))),
  ).toBe(true);
  outside.close();
});

/** A program outside of everything that joins a session of network MIDI on two real sockets. */
async function midiOutside(port: number) {
  const sockets = [createSocket('udp4'), createSocket('udp4')] as const;
  const [control, data] = sockets;
  const heard: string[] = [];
  let accepted = 0;
  for (const socket of sockets) {
    socket.on('message', (bytes) => {
      const read = readRtpMidi(bytes);
      if (read.ok && read.packet.kind === 'accept') accepted += 1;
      if (read.ok && read.packet.kind === 'midi')
        heard.push(...read.packet.messages.map((message) => midiWords(message.bytes)));
    });
    await new Promise<void>((done) => void socket.bind(0, '127.0.0.1', done));
  }
  const invitation = writeSession({ kind: 'invite', token: 7, ssrc: 77, name: 'keys' });
  /** Time passes two hundred times as fast here, and who is not heard for a minute of it is gone. */
  const join = async () => {
    accepted = 0;
    control.send(invitation, port, '127.0.0.1');
    data.send(invitation, port + 1, '127.0.0.1');
    while (accepted < 2) await new Promise((done) => setTimeout(done, 2));
  };
  let seq = 0;
  return {
    heard,
    join,
    send: (bytes: number[]) =>
      data.send(
        writeMidiPacket({ seq: (seq += 1), timestamp: 0, ssrc: 77, messages: [{ delta: 0, bytes }] }),
        port + 1,
        '127.0.0.1',
      ),
    close: () => sockets.forEach((socket) => void socket.close()),
  };
}

describe('cues', () => {
  test('go by hand, prove themselves by effect, and say what was refused', async () => {
    const { act, face, state } = await onBench();
    await act({ act: 'cue_go', cueId: 'cue-3-5' });
    const run = (await state()).cueRun;
    expect(run?.done.at(-1)).toMatchObject({ cueId: 'cue-3-5', deliveries: [{ outcome: 'done', targetId: 'desk' }] });
    expect([(await face('desk'))['cue'], run?.nextId]).toEqual(['31', 'cue-4']);
    expect((await act({ act: 'cue_back' })).cueRun?.nextId).toBe('cue-3-5');
    await act({ act: 'cue_skip' });
    expect((await act({ act: 'cue_skip' })).cueRun?.nextId).toBe('cue-5');
    await act({ act: 'set_fault', kind: 'cable_out', deviceId: 'callers' });
    const after = await act({ act: 'cue_go', cueId: 'cue-7' });
    expect(after.cueRun?.done.at(-1)?.deliveries[0]?.outcome).toBe('not_arrived');
  });

  test('what a cue was to send later is not sent any more when everything was stopped', async () => {
    const show = demoShow();
    const cue = show.cues['cue-3-5'] ?? expect.fail();
    const later = cue.messages.map((message) => ({ ...message, delayMs: 60_000 }));
    const { act, state, eventually } = await onBench(withRows(show, 'cues', { ...cue, messages: later }));
    const going = act({ act: 'cue_go', cueId: 'cue-3-5' });
    await act({ act: 'stop_all', deviceId: null });
    await going;
    expect(await eventually(async () => (await state()).cueRun?.done.length === 1)).toBe(true);
    expect((await state()).cueRun?.done[0]?.deliveries).toMatchObject([{ outcome: 'not_sent' }]);
  });

  test('one that follows comes after its time, and one that waits for an input when that is on air', async () => {
    const { act, state, eventually } = await onBench();
    await act({ act: 'cues_from', cueId: null });
    await act({ act: 'cue_go', cueId: 'cue-1' });
    expect((await state()).cueRun?.waiting).toMatchObject([{ cueId: 'cue-2' }]);
    const isDone = (id: string) => async () => (await state()).cueRun?.done.some(({ cueId }) => cueId === id) ?? false;
    expect(await eventually(isDone('cue-2'))).toBe(true);
    await act({ act: 'touch', deviceId: 'switcher', serviceKey: 'web', command: 'cut', args: [5] });
    expect(await eventually(isDone('cue-4'))).toBe(true);
    expect((await state()).cueRun?.done.some(({ cueId }) => cueId === 'cue-7')).toBe(false);
  });

  test('light above a level and a page of the web start cues once, when they come to say so', async () => {
    const show = demoShow();
    const cue = show.cues['cue-7'] ?? expect.fail();
    const level = {
      ...cue,
      id: 'level',
      number: 20,
      starts: { by: 'level', universe: 1, channel: 12, above: 127 } as const,
    };
    const web = { ...cue, id: 'web', number: 21, starts: { by: 'web', page: 'tide', says: 'high' } as const };
    const { act, state, eventually } = await onBench(withRows(show, 'cues', level, web));
    const times = async (id: string) => (await state()).cueRun?.done.filter(({ cueId }) => cueId === id).length ?? 0;
    await act({ act: 'cues_from', cueId: null });
    const isOnce = (id: string) => eventually(async () => (await times(id)) === 1);
    await act({ act: 'feed_level', universe: 1, channel: 12, value: 127 });
    await act({ act: 'feed_page', page: 'tide', says: 'low' });
    expect([await times('level'), await times('web')]).toEqual([0, 0]);
    await act({ act: 'feed_level', universe: 1, channel: 12, value: 128 });
    await act({ act: 'feed_page', page: 'tide', says: 'high tide at noon' });
    expect([await isOnce('level'), await isOnce('web')]).toEqual([true, true]);
  });

  test('a rehearsal does all of them, and stopping everything stops what runs', async () => {
    const { act, state, eventually, face } = await onBench();
    await act({ act: 'rehearse_cues' });
    const over = async () => {
      const run = (await state()).cueRun;
      return run?.rehearsing === false && run.done.length === 10;
    };
    expect(await eventually(over)).toBe(true);
    const outcomes = (await state()).cueRun?.done.flatMap(({ deliveries }) => deliveries.map(({ outcome }) => outcome));
    expect(outcomes?.filter((outcome) => outcome === 'done').length).toBeGreaterThan(10);
    await act({ act: 'stop_all', deviceId: null });
    expect([(await face('desk'))['state'], (await face('recorder'))['state']]).toEqual(['stopped', 'stopped']);
    expect((await state()).cueRun?.running).toBe(false);
  });

  test('a circle is not run', async () => {
    const show = demoShow();
    const [one, two] = [show.cues['cue-6'], show.cues['cue-7']].map((cue) => cue ?? expect.fail());
    const by = (cueId: string) => ({ by: 'cue', cueId, delayMs: 0 }) as const;
    const round = withRows(
      show,
      'cues',
      { ...(one ?? expect.fail()), starts: by('cue-7') },
      { ...(two ?? expect.fail()), starts: by('cue-6') },
    );
    const { act } = await onBench(round);
    await expect(act({ act: 'cue_go', cueId: 'cue-6' })).rejects.toThrow('starts itself again');
  });
});

test('one message by itself, and what became of it', async () => {
  const { act, show } = await onBench();
  const message = {
    controllerId: 'host',
    targetId: 'lyrics-quay',
    serviceKey: 'osc',
    command: 'go-to',
    args: [4],
    typed: '',
  };
  const address = core.serviceTypeOf(show, show.devices['lyrics-quay'], 'osc')?.commands[0]?.address ?? '';
  const sent = address.replace('{item}', '4');
  expect((await act({ act: 'send_message', ...message })).tried).toMatchObject({ outcome: 'done', sent });
  const typed = { ...message, command: null, args: [], typed: '/shout "Rosa"' };
  expect((await act({ act: 'send_message', ...typed })).tried).toMatchObject({
    outcome: 'refused',
    sent: '/shout Rosa',
  });
  // the demo has the two ports of its gateway interchanged: it arrives where nobody hears
  const callers = { ...message, targetId: 'callers', command: 'show-caller', args: ['Bram Okafor'] };
  expect((await act({ act: 'send_message', ...callers })).tried?.why).toBe('nobody hears on that port');
  expect((await act({ act: 'send_message', ...message, controllerId: 'panel' })).tried?.outcome).toBe('not_sent');
});

test('of things that come while one is under way only the newest is done, and every name has a lane of its own', async () => {
  const lanes = new Lanes();
  const done: string[] = [];
  let finish: () => void = () => undefined;
  const slow = lanes.run('a', () => new Promise<void>((end) => (finish = end)).then(() => void done.push('a1')));
  for (const n of [2, 3, 4]) void lanes.run('a', () => Promise.resolve(void done.push(`a${n}`)));
  await lanes.run('b', () => Promise.resolve(void done.push('b1')));
  finish();
  await slow;
  expect(done).toEqual(['b1', 'a1', 'a4']);
});

describe('a lamp follows what its target does by itself', () => {
  const panelLink = (id: string, targetId: string, serviceKey: string, port: number): core.Content<'links'> =>
    core.filledRow('links', {
      ...{ id, controllerId: 'panel', targetId, serviceKey, port, slot: null, host: null, replyPort: null },
      ...{ account: null, secretId: null, command: null, args: [] },
    });
  const key = (id: string, patch: Partial<core.Content<'assignments'>>): core.Content<'assignments'> =>
    core.filledRow('assignments', { id, deviceId: 'panel', control: id, ...patch });
  /** The demo with a panel whose keys record, play, and move a fader over MIDI. */
  function rigged(): Show {
    const show = demoShow();
    const address = core.rowsOf(show, 'addresses').find(({ interfaceId }) => interfaceId === 'panel-lan');
    const ports = panelLink('to-recorder', 'recorder', 'text', 9700);
    let next = withRows(show, 'addresses', { ...(address ?? expect.fail()), method: 'static', ip: '10.61.20.29' });
    const byMidi = { ...panelLink('by-midi', 'mixer', 'midi', 5004), controllerId: 'host' };
    next = withRows(next, 'links', ports, panelLink('to-deck', 'deck-a', 'web', 5310), byMidi);
    return withRows(
      next,
      'assignments',
      key('key-1-1', {
        targetId: 'recorder',
        serviceKey: 'text',
        command: 'record',
        args: ['final'],
        feedback: 'records',
      }),
      key('key-1-2', { targetId: 'deck-a', serviceKey: 'web', command: 'play', args: [3], feedback: 'plays' }),
      core.filledRow('assignments', {
        ...{ id: 'by-midi', deviceId: 'faders-right', control: 'key-1', targetId: 'mixer', serviceKey: 'midi' },
        ...{ command: 'fader', args: [3, 64] },
      }),
    );
  }
  const at = (
    deviceId: string,
    serviceKey: string,
    command: string,
    ...args: contract.Moves['moves'][number]['value'][]
  ) => ({ act: 'touch', deviceId, serviceKey, command, args }) as const;

  test('over lines of text, over a session of MIDI, and asked for over HTTP', async () => {
    const { act, control, eventually } = await onBench(rigged());
    const lamp = async (deviceId: string, name: string) => (await control(deviceId, name))?.lamp;
    // nothing is known before it is told; what is asked for is known soon
    expect(await eventually(async () => (await lamp('panel', 'key-1-2'))?.says === 'ready')).toBe(true);
    expect(await lamp('panel', 'key-1-2')).toEqual({ lit: true, says: 'ready', colour: 'green' });
    await act(at('deck-a', 'web', 'play', 7));
    expect((await lamp('faders-right', 'key-1'))?.lit ?? false).toBe(false);
    // whoever has just joined, or connected, knows nothing of what was said before
    const record = async () => {
      await act({ act: 'touch', deviceId: 'recorder', serviceKey: 'text', command: 'record', args: ['two words'] });
      return (await lamp('panel', 'key-1-1'))?.lit === true;
    };
    expect(await eventually(record)).toBe(true);
    expect(await lamp('panel', 'key-1-1')).toEqual({ lit: true, says: 'recording two words', colour: 'red' });
    expect(await eventually(async () => (await lamp('panel', 'key-1-2'))?.says === 'playing 7')).toBe(true);
    const fader = async () => {
      await act(at('mixer', 'midi', 'fader', 3, 64));
      return (await lamp('faders-right', 'key-1'))?.says === '64 of 127';
    };
    expect(await eventually(fader)).toBe(true);
    // started anew it is nobody's partner any more: whoever follows it joins again
    await act({ act: 'restart', deviceIds: ['mixer'] });
    const isForgotten = async () => ((await lamp('faders-right', 'key-1'))?.says ?? '') === '';
    expect(await eventually(isForgotten)).toBe(true);
    expect(await eventually(fader)).toBe(true);
    await act(at('recorder', 'text', 'stop'));
    expect(await eventually(async () => (await lamp('panel', 'key-1-1'))?.says === 'stopped')).toBe(true);
  });

  test('what somebody else did is heard too; who is gone shows nothing, and is heard again when it is back', async () => {
    const { bench, act, control, power, eventually, show } = await onBench(rigged());
    const says = async (name: string) => (await control('panel', name))?.lamp?.says;
    await eventually(async () => (await says('key-1-2')) === 'ready');
    const recordedByHost = async () => {
      await act({ act: 'send_message', controllerId: 'host', ...recordByHost });
      return (await says('key-1-1')) === 'recording final';
    };
    expect(await eventually(recordedByHost)).toBe(true);
    const movedByHost = async () => {
      await act({ act: 'send_message', controllerId: 'host', ...moveFader });
      return (await control('faders-right', 'key-1'))?.lamp?.says === '64 of 127';
    };
    expect(await eventually(movedByHost)).toBe(true);
    await power('recorder', false);
    await power('deck-a', false);
    expect(await eventually(async () => (await says('key-1-1')) === '' && (await says('key-1-2')) === '')).toBe(true);
    await power('recorder', true);
    await power('deck-a', true);
    expect(await eventually(async () => (await says('key-1-2')) === 'ready')).toBe(true);
    const recordsAgain = async () => {
      await act(at('recorder', 'text', 'stop'));
      return (await says('key-1-1')) === 'stopped';
    };
    expect(await eventually(recordsAgain)).toBe(true);
    // sounding the same link beside it goes as without it
    const sounding = await bench.handle({ kind: 'sound', showId: show.id, linkId: 'to-recorder' });
    expect((sounding as core.MeasuredSounding).layers.filter(({ state }) => state === 'fail')).toEqual([]);
  });
});

const moveFader = { targetId: 'mixer', serviceKey: 'midi', command: 'fader', args: [3, 64], typed: '' };
const recordByHost: Omit<core.CueMessage, 'delayMs'> = {
  ...{ targetId: 'recorder', serviceKey: 'text', command: 'record', args: ['final'], typed: '' },
};
