import { everybody, readDhcpMessage, writeDhcp, type DhcpMessage, type Frame } from '@deep-patch/codecs';
import { afterEach, describe, expect, test } from 'vitest';
import { Cable, copper } from './cable.ts';
import { DhcpClient } from './dhcp-client.ts';
import { DhcpServer, type Pool } from './dhcp-server.ts';
import { Host } from './host.ts';
import { startScheduler, type Scheduler } from './scheduler.ts';
import { Switch } from './switch.ts';

const running: Scheduler[] = [];
afterEach(() => running.splice(0).forEach((scheduler) => scheduler.stop()));

const ip = (last: number) => 0x0a000000 + last;
const pool: Pool = {
  id: 'net',
  network: ip(0),
  prefix: 24,
  from: ip(100),
  to: ip(102),
  gateway: ip(1),
  reserved: new Map(),
};

interface Heard {
  readonly from: 'client' | 'server';
  readonly at: number;
  readonly unicast: boolean;
  readonly message: DhcpMessage;
}

/** A server, and machines without an address, on one switch; everything that DHCP says is written down. */
function segment(reserved: Pool['reserved'] = new Map()) {
  const scheduler = startScheduler(10_000);
  running.push(scheduler);
  // with nothing under way simulated time would run as fast as ten thousand clocks
  const beat = () => void scheduler.after(20, beat);
  beat();
  const box = new Switch(scheduler, () => true, undefined);
  const heard: Heard[] = [];
  let next = 0;
  const machine = (own?: number) => {
    next += 1;
    const host = new Host(scheduler);
    const addresses = own === undefined ? [] : [{ ip: own, prefix: 24, gateway: null, tag: null }];
    const port = host.addAdapter('lan', `02:00:00:00:00:0${next}`, addresses, () => true);
    new Cable([port, box.addPort(`p${next}`)], copper(1), scheduler, () => 0.5);
    host.watchSent((frame) => note(frame, own === undefined ? 'client' : 'server'));
    return { host, adapter: host.adapters[0] ?? expect.fail('no adapter') };
  };
  const note = ({ to, body }: Frame, from: Heard['from']) => {
    if (body.kind !== 'ip' || body.payload.kind !== 'udp') return;
    const { bytes } = body.payload;
    const message = readDhcpMessage(new DataView(bytes.buffer, bytes.byteOffset, bytes.byteLength));
    if (message) heard.push({ from, at: scheduler.now(), unicast: to !== everybody, message });
  };
  const router = machine(ip(1));
  const server = new DhcpServer(router.host, [{ ...pool, reserved }]);
  server.start();
  /** Says something as a client does, and answers what the server says within two seconds. */
  const ask = async ({ adapter, host }: ReturnType<typeof machine>, message: Partial<DhcpMessage>) => {
    const before = heard.length;
    const whole = { type: 'discover', transaction: 7, clientMac: adapter.mac, clientIp: 0, yourIp: 0 } as const;
    const bytes = writeDhcp({ ...whole, broadcast: true, ...message });
    host.broadcast(adapter, { from: 68, to: 67 }, bytes, adapter.addresses[0]);
    await wait(2000);
    return heard.slice(before).filter(({ from }) => from === 'server');
  };
  const wait = (ms: number) => new Promise<void>((done) => void scheduler.after(ms, done));
  return { scheduler, heard, machine, server, ask, wait };
}
const seconds = (heard: Heard, since: number) => Math.round((heard.at - since) / 1000);

describe('a lease through its life (RFC 2131 section 4.4)', () => {
  test('one number an exchange; renewed with its server at T1, with any at T2, and over at its end', async () => {
    const { scheduler, heard, machine, server, wait } = segment();
    const unit = machine();
    const client = new DhcpClient(unit.host, unit.adapter, 'unit');
    client.start('dhcp');
    await client.settled;
    const start = scheduler.now();
    expect(heard.map(({ message: { type } }) => type)).toEqual(['discover', 'offer', 'request', 'ack']);
    expect(new Set(heard.map(({ message }) => message.transaction)).size).toBe(1);
    expect(heard[0]?.message).toMatchObject({ clientId: `01${unit.adapter.mac.replaceAll(':', '')}`, broadcast: true });
    expect(heard[3]?.message).toMatchObject({
      leaseSeconds: 600,
      renewSeconds: 300,
      rebindSeconds: 525,
      router: ip(1),
    });
    heard.length = 0;
    await wait(320_000);
    const [renewal, ack] = heard;
    expect(renewal && [renewal.message.type, renewal.unicast, seconds(renewal, start)]).toEqual(['request', true, 300]);
    expect([renewal?.message.clientIp, renewal?.message.requestedIp, renewal?.message.serverIp]).toEqual([
      ip(100),
      undefined,
      undefined,
    ]);
    expect([ack?.message.type, ack?.unicast, heard.length]).toEqual(['ack', true, 2]);
    // the server stays silent from here on
    server.active = false;
    const renewed = ack?.at ?? 0;
    heard.length = 0;
    await wait(570_000);
    expect(heard.every(({ message: { clientIp, type } }) => clientIp === ip(100) && type === 'request')).toBe(true);
    expect(seconds(heard[0] ?? expect.fail('no renewal'), renewed)).toBe(300);
    const rebinding = heard.find(({ unicast }) => !unicast);
    expect(rebinding && seconds(rebinding, renewed)).toBe(525);
    expect(unit.adapter.addresses.map((own) => own.ip)).toEqual([ip(100)]);
    await wait(20_000);
    expect(unit.adapter.addresses.map((own) => own.ip)).not.toContain(ip(100));
    client.stop();
  });

  test('an address that somebody has is declined, and another one is taken', async () => {
    const reserved = new Map<string, number>();
    const { heard, machine, wait } = segment(reserved);
    machine(ip(50));
    const unit = machine();
    reserved.set(unit.adapter.mac, ip(50));
    const client = new DhcpClient(unit.host, unit.adapter, 'unit');
    client.start('dhcp');
    await wait(15_000);
    const declined = heard.find(({ message: { type } }) => type === 'decline');
    expect([declined?.message.requestedIp, declined?.message.serverIp]).toEqual([ip(50), ip(1)]);
    expect(unit.adapter.addresses.map((own) => own.ip)).toEqual([ip(100)]);
    client.stop();
  });

  test('after a restart it asks for the address that it had, without discovering anew', async () => {
    const { heard, machine } = segment();
    const unit = machine();
    const memory = new Map<string, number>();
    const take = async () => {
      const client = new DhcpClient(unit.host, unit.adapter, 'unit', memory);
      heard.length = 0;
      client.start('dhcp');
      await client.settled;
      client.stop();
      return heard.map(({ message: { type } }) => type);
    };
    expect(await take()).toEqual(['discover', 'offer', 'request', 'ack']);
    unit.adapter.addresses = [];
    expect(await take()).toEqual(['request', 'ack']);
    expect([heard[0]?.message.requestedIp, heard[0]?.message.serverIp]).toEqual([ip(100), undefined]);
  });
});

describe('a server (RFC 2131 section 4.3, RFC 2132)', () => {
  test('stays silent towards a client that asks for an address of which it has no record', async () => {
    const { machine, ask } = segment();
    expect(await ask(machine(), { type: 'request', requestedIp: ip(101) })).toEqual([]);
  });

  test('says no to a client that comes from another network', async () => {
    const { machine, ask } = segment();
    const [answer] = await ask(machine(), { type: 'request', requestedIp: 0xc0a80005 });
    expect(answer?.message.type).toBe('nak');
  });

  test('gives the address that a client asks for, as long as it is free', async () => {
    const { machine, ask } = segment();
    const offers = [await ask(machine(), { requestedIp: ip(102) }), await ask(machine(), { requestedIp: ip(102) })];
    expect(offers.map(([offer]) => offer?.message.yourIp)).toEqual([ip(102), ip(100)]);
  });

  test('keeps what it only offered back for a short time, and lends what was leased again once that is over', async () => {
    const { machine, ask, wait } = segment();
    const [curious, second, third] = [machine(), machine(), machine()];
    expect((await ask(curious, {}))[0]?.message.yourIp).toBe(ip(100));
    await wait(11_000);
    expect((await ask(second, {}))[0]?.message.yourIp).toBe(ip(100));
    const [ack] = await ask(second, { type: 'request', requestedIp: ip(100), serverIp: ip(1) });
    expect(ack?.message.type).toBe('ack');
    await wait(30_000);
    expect((await ask(third, {}))[0]?.message.yourIp).toBe(ip(101));
    await wait(600_000);
    expect((await ask(third, {}))[0]?.message.yourIp).toBe(ip(101));
    expect((await ask(curious, {}))[0]?.message.yourIp).toBe(ip(100));
  });

  test('knows a client by its identifier, whatever card it comes with', async () => {
    const { machine, ask } = segment();
    const [one, other] = [machine(), machine()];
    const clientId = '00636172';
    const [offer] = await ask(one, { clientId });
    await ask(one, { type: 'request', clientId, requestedIp: ip(100), serverIp: ip(1) });
    expect([offer?.message.yourIp, (await ask(other, { clientId }))[0]?.message.yourIp]).toEqual([ip(100), ip(100)]);
  });

  test('tells only what it is asked for, and tells somebody with an address the rest without a lease', async () => {
    const { machine, ask } = segment();
    const [offer] = await ask(machine(), { wants: [1] });
    expect([offer?.message.mask, offer?.message.router, offer?.message.leaseSeconds]).toEqual([
      0xffffff00,
      undefined,
      600,
    ]);
    const [informed] = await ask(machine(ip(20)), { type: 'inform', clientIp: ip(20), broadcast: false }).then((all) =>
      all.filter(({ message: { type } }) => type === 'ack'),
    );
    expect(informed && [informed.unicast, informed.message.yourIp, informed.message.leaseSeconds]).toEqual([
      true,
      0,
      undefined,
    ]);
    expect(informed?.message).toMatchObject({ mask: 0xffffff00, router: ip(1), clientIp: ip(20) });
  });
});

test('an own address is probed three times and announced twice, and given up when it is contradicted again', async () => {
  const { scheduler, machine, wait } = segment();
  const [unit, rival] = [machine(), machine()];
  const arps: { at: number; asks: boolean; senderIp: number; targetIp: number }[] = [];
  unit.host.watchSent(({ body }) => body.kind === 'arp' && void arps.push({ at: scheduler.now(), ...body }));
  const client = new DhcpClient(unit.host, unit.adapter, 'unit');
  client.start('self', 0xa9fe4242);
  await client.settled;
  await wait(3000);
  // RFC 3927 section 2.2.1 and 2.4: probes 1 to 2 s apart, announcements 2 s apart
  expect(arps.map(({ senderIp, targetIp }) => [senderIp, targetIp])).toEqual([
    [0, 0xa9fe4242],
    [0, 0xa9fe4242],
    [0, 0xa9fe4242],
    [0xa9fe4242, 0xa9fe4242],
    [0xa9fe4242, 0xa9fe4242],
  ]);
  const gaps = arps.slice(1).map(({ at }, n) => (at - (arps[n]?.at ?? 0)) / 1000);
  expect([
    gaps.slice(0, 2).every((gap) => gap >= 1 && gap <= 2),
    Math.round(gaps[2] ?? 0),
    Math.round(gaps[3] ?? 0),
  ]).toEqual([true, 2, 2]);
  const { mac, port } = rival.adapter;
  const claim = () =>
    port.cable?.send(port, {
      to: everybody,
      from: mac,
      vlan: null,
      body: { kind: 'arp', asks: true, senderMac: mac, senderIp: 0xa9fe4242, targetIp: 0xa9fe4242 },
    });
  arps.length = 0;
  claim();
  await wait(100);
  // section 2.5: it defends its address once
  expect([arps.filter(({ asks }) => asks).length, unit.adapter.addresses[0]?.ip]).toEqual([1, 0xa9fe4242]);
  claim();
  await wait(15_000);
  const now = unit.adapter.addresses[0]?.ip ?? 0;
  expect([now >>> 16, now === 0xa9fe4242]).toEqual([0xa9fe, false]);
  client.stop();
});
