// What the bench must hold: the simulated network at its full load, the tap beside a bare socket, hostile bytes.
import { fork } from 'node:child_process';
import { createSocket } from 'node:dgram';
import { readFileSync } from 'node:fs';
import { join } from 'node:path';
import { Worker } from 'node:worker_threads';
import {
  everybody,
  MtcReader,
  readChallenges,
  readDhcpMessage,
  readDigestFields,
  readOsc,
  readRtpMidi,
  readWake,
  SlipReader,
  writeDhcp,
  writeMidiPacket,
  writeOsc,
  writeSession,
  writeSlip,
  writeWake,
} from '@deep-patch/codecs';
import { Bench, Cable, Host, Site, startScheduler, Switch, copper } from '@deep-patch/bench';
import type { contract } from '@deep-patch/core';
import { demoPasswords, demoShow } from '@deep-patch/demo';
import { measureLines, type Tell } from './measure-lines.ts';

function dice(seed: number): (below: number) => number {
  let state = seed;
  return (below) => {
    state = (Math.imul(state, 1_664_525) + 1_013_904_223) >>> 0;
    return Math.floor((state / 2 ** 32) * below);
  };
}

/** 500 hosts on a tree of managed switches, four datagrams a second each: how much of one core does it take? */
async function measureEther(tell: Tell): Promise<void> {
  const [hosts, seconds, perSecond] = [500, 5, 2000];
  // so fast that simulated time waits for the computation, never for the clock
  const scheduler = startScheduler(1e6);
  const hubs = Array.from(
    { length: 25 },
    (_, at) => new Switch(scheduler, () => true, `02:00:00:01:00:${at.toString(16).padStart(2, '0')}`),
  );
  const units = Array.from({ length: hosts }, (_, at) => {
    const host = new Host(scheduler);
    const mac = `02:00:00:00:${(at >> 8).toString(16).padStart(2, '0')}:${(at & 255).toString(16).padStart(2, '0')}`;
    const port = host.addAdapter(
      'lan',
      mac,
      [{ ip: 0x0a000001 + at, prefix: 22, gateway: null, tag: null }],
      () => true,
    );
    const hub = hubs[Math.floor(at / 20)];
    if (hub) new Cable([port, hub.addPort(`p${at}`)], copper(5), scheduler, () => 0.5);
    return host;
  });
  for (const [at, hub] of hubs.entries()) {
    const above = hubs[Math.floor((at - 1) / 4)];
    if (at > 0 && above) new Cable([hub.addPort('up'), above.addPort(`down ${at}`)], copper(50), scheduler, () => 0.5);
  }
  for (const hub of hubs) hub.tree?.start();
  let heard = 0;
  for (const unit of units) unit.listen(9000, () => (heard += 1));
  const wait = (ms: number) => new Promise<void>((done) => void scheduler.after(ms, done));
  await wait(3000);
  const start = performance.now();
  let sent = 0;
  const send = () => {
    if (sent >= seconds * perSecond) return;
    const from = units[(sent * 7) % hosts];
    void from?.sendUdp(0x0a000001 + ((sent * 13 + 5) % hosts), { from: 9000, to: 9000 }, new Uint8Array(32));
    sent += 1;
    scheduler.after(1000 / perSecond, send);
  };
  send();
  await wait(seconds * 1000 + 1000);
  const took = (performance.now() - start) / 1000;
  scheduler.stop();
  const share = took / (seconds + 1);
  tell(
    `${hosts} hosts, ${perSecond.toLocaleString('en-GB')} frames a second on the bench`,
    `${(share * 100).toFixed(0)} % of one core, ${heard} of ${sent} arrived`,
    'under 100 %, none lost',
    share < 1 && heard === sent,
  );
}

/**
 * The bench's own process, as it ships, with the demo show all switched on and nobody at work: what it takes of a core
 * once the engine has compiled what runs all the time.
 */
async function measureIdle(tell: Tell): Promise<void> {
  const { id: showId, devices } = demoShow();
  const bench = fork(join(import.meta.dirname, '../packages/server/dist/bench.js'), { stdio: 'inherit' });
  let said = 0;
  bench.on('message', (message: { readonly event?: unknown }) => (said += message.event ? 1 : 0));
  const plan = { show: demoShow(), passwords: demoPasswords };
  bench.send({ id: 1, request: { kind: 'load', plan } });
  bench.send({ id: 2, request: { kind: 'power', showId, deviceIds: Object.keys(devices), on: true } });
  await rest(60_000);
  const [before, start] = [secondsOf(bench.pid), performance.now()];
  said = 0;
  await rest(30_000);
  const share = (secondsOf(bench.pid) - before) / ((performance.now() - start) / 1000);
  bench.disconnect();
  const count = Object.keys(devices).length;
  const value = `${(share * 100).toFixed(1)} % of one core, ${(said / 30).toFixed(0)} times a second told what is new`;
  tell(`the bench idle with all ${count} stand-ins on`, value, 'under 3 %', share < 0.03 && said > 0);
}

/** Processor time of a process and all its threads so far. */
function secondsOf(pid: number | undefined): number {
  const fields = readFileSync(`/proc/${pid}/stat`, 'utf8').split(') ')[1]?.split(' ') ?? [];
  // user and system time, in hundredths of a second (proc(5), fields 14 and 15)
  return (Number(fields[11]) + Number(fields[12])) / 100;
}

const flood = `
  const { parentPort, workerData } = require('node:worker_threads');
  const socket = require('node:dgram').createSocket({ type: 'udp4', sendBufferSize: 4 << 20 });
  const { port, packet, forMs, perMs } = workerData;
  const start = performance.now();
  let sent = 0;
  const step = () => {
    const now = performance.now() - start;
    if (now >= forMs) { socket.close(); parentPort.postMessage(sent); return; }
    const wanted = perMs === 0 ? sent + 200 : Math.floor(now * perMs);
    let open = 0;
    const burst = Math.min(400, wanted - sent);
    if (burst <= 0) { setTimeout(step, 1); return; }
    for (let n = 0; n < burst; n += 1) socket.send(packet, port, '127.0.0.1', () => { open += 1; if (open === burst) setImmediate(step); });
    sent += burst;
  };
  step();
`;
const floodTo = (port: number, perMs: number, forMs = 2000): Promise<number> =>
  new Promise((done, refuse) => {
    const packet = writeOsc({ address: '/note', args: [{ type: 's', value: 'high tide' }] });
    const worker = new Worker(flood, { eval: true, workerData: { port, packet, forMs, perMs } });
    worker.once('message', done);
    worker.once('error', refuse);
  });
const turns = 9;
const turnMs = 1000;
const median = (values: readonly number[]): number =>
  [...values].sort((a, b) => a - b)[Math.floor(values.length / 2)] ?? 0;
const rest = (ms: number) => new Promise((done) => setTimeout(done, ms));

/** OSC messages received, decoded, acted on, stored and told to screens, beside a socket that only counts. */
async function measureTap(tell: Tell): Promise<void> {
  const bare = async (): Promise<number> => {
    const socket = createSocket({ type: 'udp4', recvBufferSize: 4 << 20 });
    let got = 0;
    socket.on('message', () => (got += 1));
    await new Promise<void>((done) => socket.bind(0, '127.0.0.1', done));
    await floodTo(socket.address().port, 0, turnMs);
    await rest(300);
    socket.close();
    return got;
  };
  const show = demoShow();
  const bench = new Bench();
  let news = 0;
  bench.tellEvents((event) => (news += event.kind === 'tap' ? 1 : 0));
  await bench.handle({ kind: 'load', plan: { show, passwords: demoPasswords } });
  await bench.handle({ kind: 'power', showId: show.id, deviceIds: ['laptop', 'monitor'], on: true });
  const { jacks } = (await bench.handle({
    kind: 'jack',
    showId: show.id,
    deviceId: 'monitor',
    serviceKey: 'osc',
    replyTo: 9,
  })) as contract.BenchState;
  const port = jacks[0]?.port ?? 0;
  const taken = async (): Promise<number> => {
    const heard = (await bench.handle({ kind: 'addresses', showId: show.id })) as contract.HeardAddress[];
    return heard.find(({ address }) => address === '/note')?.count ?? 0;
  };
  const ours = async (perMs: number, forMs: number): Promise<{ sent: number; got: number }> => {
    const before = await taken();
    const sent = await floodTo(port, perMs, forMs);
    await rest(500);
    return { sent, got: (await taken()) - before };
  };
  // in turns, so that a machine that slows down slows both; the median leaves out what else ran meanwhile
  const pairs: { raw: number; own: number }[] = [];
  await bare();
  await ours(0, turnMs);
  for (let turn = 0; turn < turns; turn += 1) pairs.push({ raw: await bare(), own: (await ours(0, turnMs)).got });
  const raw = median(pairs.map((pair) => pair.raw));
  const own = median(pairs.map((pair) => pair.own));
  const ratio = median(pairs.map((pair) => pair.own / pair.raw));
  const below = await ours((raw * 0.5) / turnMs, 2000);
  bench.stop();
  const perSecond = (count: number) => Math.round((count / turnMs) * 1000).toLocaleString('en-GB');
  tell(
    'tap at full rate, beside a bare socket',
    `${perSecond(own)} of ${perSecond(raw)} messages a second (${(ratio * 100).toFixed(0)} %), told ${news} times`,
    'at least 70 %',
    ratio >= 0.7,
  );
  tell(
    'tap at half of that rate',
    `${below.got} of ${below.sent} messages taken in`,
    'none lost',
    below.got === below.sent,
  );
}

/** 200,000 damaged datagrams and streams against every reader and every door of the stand-ins. */
async function measureHostileBytes(tell: Tell): Promise<void> {
  const next = dice(20_261_125);
  const scheduler = startScheduler(1000);
  const site = new Site({ show: demoShow(), passwords: demoPasswords }, scheduler, () => 0.5);
  site.power([...site.standins.keys()], true);
  await site.settled();
  const text = (value: string) => new TextEncoder().encode(value);
  const originals = [
    writeOsc({ address: '/desk/cue/31/start', args: [{ type: 'f', value: 4 }] }),
    writeOsc({ time: 1n, elements: [{ address: '/desk/master', args: [{ type: 'f', value: 1 }] }] }),
    writeMidiPacket({ seq: 1, timestamp: 2, ssrc: 3, messages: [{ delta: 0, bytes: [0xb2, 7, 90] }] }),
    writeSession({ kind: 'invite', token: 1, ssrc: 2, name: 'Faders' }),
    writeDhcp({
      type: 'discover',
      transaction: 1,
      clientMac: '02:00:00:00:00:01',
      clientIp: 0,
      yourIp: 0,
      hostName: 'x',
    }),
    writeWake('02:00:00:00:00:01'),
    writeSlip(writeOsc({ address: '/media/item/9', args: [] })),
    text(
      'PUT /control/position/4 HTTP/1.1\r\nhost: x\r\nauthorization: Digest username="ops", realm="r", nonce="n", uri="/"\r\ncontent-length: 2\r\n\r\n{}',
    ),
    text('record final\r\nstop\r\n'),
    text('Digest realm="r", nonce="n", algorithm=SHA-256, qop="auth"'),
  ];
  let [thrown, worst] = [0, 0];
  const standins = [...site.standins.values()];
  const doors = (transport: 'udp' | 'tcp') =>
    standins.flatMap(({ host, type }) =>
      type.services.flatMap((service) =>
        service.transport === transport ? [{ host, port: service.receivePort }] : [],
      ),
    );
  const [datagramDoors, streamDoors] = [doors('udp'), doors('tcp')];
  const laptop = standins.find(({ device }) => device.id === 'laptop')?.host;
  const readers: ((bytes: Uint8Array) => unknown)[] = [
    readOsc,
    readRtpMidi,
    readWake,
    (bytes) => readDhcpMessage(new DataView(bytes.buffer, bytes.byteOffset, bytes.byteLength)),
    (bytes) => new SlipReader().push(bytes),
    (bytes) => new MtcReader().push([...bytes.slice(0, 12)]),
    (bytes) => readDigestFields(Buffer.from(bytes).toString('latin1')),
    (bytes) => readChallenges([Buffer.from(bytes).toString('latin1')]),
    (bytes) => {
      const { host, port } = datagramDoors[next(datagramDoors.length)] ?? {};
      const payload = { kind: 'udp', sourcePort: 4000, destinationPort: port ?? 0, bytes } as const;
      host?.takeFromOutside({ kind: 'ip', source: 0x7f4d0009, destination: host.firstIp(), ttl: 64, payload });
    },
    (bytes) => {
      const unit = standins[next(standins.length)]?.host.adapters[0]?.addresses[0]?.ip;
      if (unit !== undefined)
        void laptop?.sendUdp(unit, { from: 4000, to: [67, 68, 5004, 5005, 5353, 8300][next(6)] ?? 9 }, bytes);
    },
    (bytes) => {
      const { host, port } = streamDoors[next(streamDoors.length)] ?? {};
      if (next(10) === 0 && laptop && host && port !== undefined) void feed(laptop, { host, port }, bytes);
    },
  ];
  // the tap keeps its last frames: full from the start, so that only what should not grow can
  for (let n = 0; n < 25_000; n += 1) {
    const payload = { kind: 'udp', sourcePort: 4000, destinationPort: 4001, bytes: new Uint8Array(200) } as const;
    const body = { kind: 'ip', source: n, destination: n, ttl: 64, payload } as const;
    site.tap.take({ to: everybody, from: `02:00:00:00:00:0${n % 10}`, vlan: null, body });
  }
  const heaps: number[] = [];
  for (let run = 0; run < 200_000; run += 1) {
    const original = originals[run % originals.length] ?? new Uint8Array();
    const bytes = original.slice(0, 1 + next(original.length));
    for (let wound = 0; wound < 1 + next(8); wound += 1) bytes[next(bytes.length)] = next(256);
    const start = performance.now();
    try {
      readers[next(readers.length)]?.(bytes);
    } catch {
      thrown += 1;
    }
    worst = Math.max(worst, performance.now() - start);
    if (run % 2000 === 0) await new Promise<void>((done) => void setImmediate(done));
    if (run % 50_000 === 49_999) {
      // until everything that is under way has arrived
      await new Promise<void>((done) => void scheduler.after(3000, done));
      await rest(100);
      globalThis.gc?.();
      heaps.push(process.memoryUsage().heapUsed / 1e6);
    }
  }
  const off = standins.filter(({ memory }) => !memory.powered).length;
  const growth = (heaps.at(-1) ?? 0) - (heaps[1] ?? 0);
  site.load({ show: demoShow(), passwords: demoPasswords });
  scheduler.stop();
  tell(
    '200,000 damaged datagrams and streams',
    `${thrown} thrown, ${off} stand-ins off, the slowest ${worst.toFixed(0)} ms, memory ${growth >= 0 ? '+' : ''}${growth.toFixed(1)} MB over the second half`,
    'none thrown, none off, each under 250 ms, under 10 MB more',
    thrown === 0 && off === 0 && worst < 250 && growth < 10,
  );
}

/** A connection that says something once, and hangs up soon after. */
async function feed(from: Host, to: { host: Host; port: number }, bytes: Uint8Array): Promise<void> {
  const stream = await from.tcp.connect(to.host.firstIp(), to.port);
  if (typeof stream === 'string') return;
  stream.write(bytes);
  setTimeout(() => stream.end(), 50);
}

const { tell: tellLine, show: showLines } = measureLines();
await measureTap(tellLine);
await measureEther(tellLine);
await measureIdle(tellLine);
await measureHostileBytes(tellLine);
showLines();
process.exit();
