import { readRtpMidi, writeMidiPacket, writeSession, type Frame, type MidiMessage } from '@deep-patch/codecs';
import { afterEach, describe, expect, test } from 'vitest';
import { Cable, copper } from '../../ether/cable.ts';
import { Host } from '../../ether/host.ts';
import { startScheduler, type Scheduler } from '../../ether/scheduler.ts';
import { MidiSession } from './midi-session.ts';

const running: Scheduler[] = [];
afterEach(() => running.splice(0).forEach((scheduler) => scheduler.stop()));

const [ours, theirs] = [0x0a000001, 0x0a000002];

/** Two machines on one cable, with a session each: A invites, B takes in. `loses` says which frames do not arrive. */
function pair() {
  const scheduler = startScheduler(2000);
  running.push(scheduler);
  const lost = { when: (_frame: Frame): boolean => false };
  const sent: { from: number; to: number; at: number; read: ReturnType<typeof readRtpMidi> }[] = [];
  const hosts = [ours, theirs].map((ip, at) => {
    const host = new Host(scheduler);
    const port = host.addAdapter(
      'lan',
      `02:00:00:00:00:0${at}`,
      [{ ip, prefix: 24, gateway: null, tag: null }],
      () => true,
    );
    host.watchSent(({ body }) => {
      if (body.kind !== 'ip' || body.payload.kind !== 'udp') return;
      const { sourcePort, destinationPort, bytes } = body.payload;
      sent.push({ from: sourcePort, to: destinationPort, at: scheduler.now(), read: readRtpMidi(bytes) });
    });
    return {
      host,
      port: { ...port, receive: (frame: Frame) => lost.when(frame) || port.receive(frame) },
      plugged: port,
    };
  });
  const [a, b] = hosts;
  if (!a || !b) throw new Error('two hosts');
  const cable = new Cable([a.port, b.port], copper(5), scheduler, () => 0.5);
  for (const { port, plugged } of [a, b])
    plugged.cable = {
      send: (_: unknown, frame: Frame) => cable.send(port, frame),
      hasCarrier: () => true,
    } as unknown as Cable;
  const heard: MidiMessage[] = [];
  const back: MidiMessage[] = [];
  const one = new MidiSession(a.host, { name: 'A', port: 6000, ssrc: 1 }, (message) => back.push(message));
  const two = new MidiSession(b.host, { name: 'B', port: 5004, ssrc: 2 }, (message) => heard.push(message));
  expect([one.open(), two.open()]).toEqual([true, true]);
  const pass = (ms: number) => new Promise<void>((done) => void scheduler.after(ms, done));
  const kinds = (kind: string) => sent.filter(({ read }) => read.ok && read.packet.kind === kind);
  return { a: a.host, b: b.host, one, two, heard, back, lost, pass, kinds };
}

const isMidiFrame = ({ body }: Frame): boolean =>
  body.kind === 'ip' && body.payload.kind === 'udp' && (body.payload.bytes[0] ?? 0) >> 6 === 2;

describe('a session', () => {
  test('compares clocks again and again, and drops who is not heard for a minute', async () => {
    const { one, two, lost, pass, kinds } = pair();
    expect(await one.invite(theirs, 5004)).toMatchObject({ name: 'B', ssrc: 2 });
    await pass(45_000);
    // three times each: question, answer, answer to that
    expect(kinds('clock').map(({ from }) => from)).toEqual(Array(5).fill([6001, 5005, 6001]).flat());
    lost.when = ({ body }) => body.kind === 'ip';
    await pass(75_000);
    expect([one.participants.size, two.participants.size]).toEqual([0, 0]);
    lost.when = () => false;
    const before = kinds('clock').length;
    await pass(30_000);
    expect(kinds('clock')).toHaveLength(before);
    one.send([[0x90, 1, 1]]);
    expect(kinds('midi')).toHaveLength(0);
  });
  test('what got lost is put right by the next packet, and what is confirmed is not told again', async () => {
    const { one, heard, lost, pass, kinds } = pair();
    const target = await one.invite(theirs, 5004);
    if (typeof target === 'string') throw new Error(target);
    one.send([[0xb0, 7, 10]]);
    await pass(5);
    lost.when = isMidiFrame;
    one.send([[0x90, 60, 100]]);
    one.send([[0xb0, 7, 20]]);
    one.send([
      [0x80, 60, 0],
      [0x90, 62, 1],
    ]);
    await pass(5);
    lost.when = () => false;
    one.send([[0xc0, 3]]);
    await pass(5);
    expect(heard).toEqual([
      [0xb0, 7, 10],
      [0xb0, 7, 20],
      [0x90, 62, 1],
      [0xc0, 3],
    ]);
    await pass(1500);
    expect(
      kinds('feedback').map(({ from, to, read }) => [from, to, read.ok && 'seq' in read.packet && read.packet.seq]),
    ).toEqual([[5004, 6000, 5]]);
    one.send([[0xc0, 4]]);
    await pass(5);
    const last = kinds('midi').at(-1)?.read;
    expect(last?.ok && last.packet.kind === 'midi' && last.packet.journal).toEqual({ checkpoint: 6, messages: [] });
  });

  test('every peer has a stream of its own, and a long message goes in segments', async () => {
    const { one, two, b, back, pass, kinds } = pair();
    const other: MidiMessage[] = [];
    const third = new MidiSession(b, { name: 'C', port: 5006, ssrc: 3 }, (message) => other.push(message));
    third.open();
    const [first, second] = [await one.invite(theirs, 5004), await one.invite(theirs, 5006)];
    if (typeof first === 'string' || typeof second === 'string') throw new Error('refused');
    one.send([[0x90, 1, 1]], first);
    one.send([[0x90, 2, 1]], first);
    one.send([[0x90, 3, 1]]);
    await pass(5);
    const numbers = kinds('midi').map(({ to, read }) => [to, read.ok && 'seq' in read.packet && read.packet.seq]);
    expect(numbers).toEqual([
      [5005, 1],
      [5005, 2],
      [5005, 3],
      [5007, 1],
    ]);
    const long = [0xf0, ...Array.from({ length: 2500 }, (_, n) => n % 128), 0xf7];
    two.send([long, [0x90, 5, 5]]);
    await pass(5);
    expect([back, other]).toEqual([[long, [0x90, 5, 5]], [[0x90, 3, 1]]]);
    one.send([[0x90, 9, 9]], { ...second, ssrc: 77 });
    await pass(5);
    expect(other).toHaveLength(1);
  });

  test('only what comes from where a participant is, with its number and token, counts', async () => {
    const { a, b, one, two, heard, pass } = pair();
    await one.invite(theirs, 5004);
    const token = two.participants.get(1)?.token ?? expect.fail('nobody joined');
    const note = writeMidiPacket({ seq: 50, timestamp: 0, ssrc: 1, messages: [{ delta: 0, bytes: [0x90, 1, 1] }] });
    const leave = (of: number) => writeSession({ kind: 'leave', token: of, ssrc: 1, name: '' });
    const invite = (of: number) => writeSession({ kind: 'invite', token: of, ssrc: 9, name: 'X' });
    const foreign = 0x0a000003;
    const [adapter] = a.adapters;
    if (adapter) adapter.addresses = [...adapter.addresses, { ip: foreign, prefix: 24, gateway: null, tag: null }];
    // another port, the door for commands, a stranger's number, a wrong token
    void a.sendUdp(theirs, { from: 7000, to: 5005 }, note);
    void a.sendUdp(theirs, { from: 6000, to: 5004 }, note);
    void a.sendUdp(theirs, { from: 6001, to: 5005 }, writeMidiPacket({ seq: 1, timestamp: 0, ssrc: 8, messages: [] }));
    void a.sendUdp(theirs, { from: 6000, to: 5004 }, leave(token + 1));
    void a.sendUdp(theirs, { from: 7000, to: 5004 }, leave(token));
    // the data door alone, and with another token than the first one
    void a.sendUdp(theirs, { from: 8001, to: 5005 }, invite(4));
    void a.sendUdp(theirs, { from: 8000, to: 5004 }, invite(5));
    void a.sendUdp(theirs, { from: 8001, to: 5005 }, invite(6));
    // an answer to what nobody asked
    void b.sendUdp(ours, { from: 5004, to: 6000 }, writeSession({ kind: 'accept', token: 99, ssrc: 4, name: 'Y' }));
    await pass(20);
    expect([heard, [...two.participants.keys()], [...one.participants.keys()]]).toEqual([[], [1], [2]]);
    void a.sendUdp(theirs, { from: 8001, to: 5005 }, invite(5));
    void a.sendUdp(theirs, { from: 6001, to: 5005 }, note);
    // late: its place in the stream is before the last one
    void a.sendUdp(
      theirs,
      { from: 6001, to: 5005 },
      writeMidiPacket({ seq: 49, timestamp: 0, ssrc: 1, messages: [{ delta: 0, bytes: [0x90, 2, 2] }] }),
    );
    await pass(20);
    expect([heard, [...two.participants.keys()]]).toEqual([[[0x90, 1, 1]], [1, 9]]);
    void a.sendUdp(theirs, { from: 6000, to: 5004 }, leave(token));
    await pass(20);
    expect([...two.participants.keys()]).toEqual([9]);
  });

  test('one that is closed says so; one that loses its power does not', async () => {
    for (const how of ['leaving', 'cut'] as const) {
      const { one, two, pass, kinds } = pair();
      await one.invite(theirs, 5004);
      one.close(how);
      await pass(20);
      expect([how, kinds('leave').length, two.participants.size]).toEqual(
        how === 'leaving' ? [how, 1, 0] : [how, 0, 1],
      );
      expect(one.open()).toBe(true);
    }
  });

  test('nobody answers, nobody is there, the session is full', async () => {
    const { a, one, two, lost, pass, kinds } = pair();
    lost.when = ({ body }) => body.kind === 'ip' && body.payload.kind === 'udp';
    expect([await one.invite(theirs, 5004), kinds('invite').length]).toEqual(['silent', 3]);
    lost.when = () => false;
    expect(await one.invite(theirs, 5010)).toBe('refused');
    for (let n = 0; n < 64; n += 1) {
      const invitation = writeSession({ kind: 'invite', token: n, ssrc: 100 + n, name: 'many' });
      void a.sendUdp(theirs, { from: 7000 + n * 2, to: 5004 }, invitation);
      void a.sendUdp(theirs, { from: 7001 + n * 2, to: 5005 }, invitation);
    }
    await pass(20);
    expect([two.participants.size, await one.invite(theirs, 5004)]).toEqual([64, 'refused']);
  });
});
