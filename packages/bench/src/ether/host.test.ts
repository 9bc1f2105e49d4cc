import { afterEach, describe, expect, test } from 'vitest';
import { Cable, copper, type Port } from './cable.ts';
import { Host } from './host.ts';
import { startScheduler, type Scheduler } from './scheduler.ts';
import { Switch } from './switch.ts';

const running: Scheduler[] = [];
afterEach(() => running.splice(0).forEach((scheduler) => scheduler.stop()));

/** Hosts 10.0.0.1, .2, ... on one switch, each with a lamp that counts what reaches its cable. */
function site(count: number, patch: { ips?: number[]; prefix?: number } = {}) {
  const scheduler = startScheduler(50);
  running.push(scheduler);
  const power = { hub: true, hosts: Array.from({ length: count }, () => true) };
  const hub = new Switch(scheduler, () => power.hub);
  const seen = Array.from({ length: count }, () => 0);
  const hosts = Array.from({ length: count }, (_, at) => {
    const host = new Host(scheduler);
    const ip = patch.ips?.[at] ?? 0x0a000001 + at;
    const port = host.addAdapter(
      'lan',
      `02:00:00:00:00:0${at}`,
      [{ ip, prefix: patch.prefix ?? 24, gateway: null, tag: null }],
      () => power.hosts[at] ?? false,
    );
    const counting: Port = {
      cable: undefined,
      isPowered: port.isPowered,
      receive: (frame) => {
        seen[at] = (seen[at] ?? 0) + 1;
        port.receive(frame);
      },
    };
    const cable = new Cable([counting, hub.addPort(`p${at}`)], copper(5), scheduler, () => 0.5);
    port.cable = {
      send: (_from: Port, frame: Parameters<Cable['send']>[1]) => cable.send(counting, frame),
      hasCarrier: () => cable.hasCarrier(),
    } as unknown as Cable;
    return host;
  });
  return { hosts, hub, seen, power, scheduler };
}
const [one, two, nine] = [0x0a000001, 0x0a000002, 0x0a000009];

describe('a switch', () => {
  test('floods what it does not know and learns where each address sits', async () => {
    const { hosts, seen } = site(4);
    expect(await hosts[0]?.ping(two)).toBeGreaterThan(0);
    const before = [...seen];
    expect(await hosts[0]?.ping(two)).toBeGreaterThan(0);
    expect([seen[2], seen[3]]).toEqual([before[2], before[3]]);
    expect((seen[1] ?? 0) > (before[1] ?? 0)).toBe(true);
  });

  test('passes nothing without power', async () => {
    const { hosts, power } = site(2);
    power.hub = false;
    expect([hosts[0]?.adapters[0]?.port.cable?.hasCarrier(), await hosts[0]?.ping(two)]).toEqual([false, undefined]);
    power.hub = true;
    expect(await hosts[0]?.ping(two)).toBeGreaterThan(0);
  });
});

describe('a host', () => {
  test('learns of two owners of one address, and of none', async () => {
    const { hosts } = site(3, { ips: [one, two, two] });
    const found = await hosts[0]?.resolve(two);
    expect(typeof found === 'object' && [...found.macs].sort()).toEqual(['02:00:00:00:00:01', '02:00:00:00:00:02']);
    expect(await hosts[0]?.resolve(nine)).toBe('silent');
    expect(await hosts[0]?.resolve(0x0b000001)).toBe('no_route');
    expect(await new Host(startScheduler()).resolve(one)).toBe('no_address');
  });

  test('hears datagrams on open ports, and the sender of one to a closed port is told', async () => {
    const { hosts, scheduler } = site(2);
    const heard: string[] = [];
    const open = () =>
      hosts[1]?.listen(7000, ({ bytes, sourcePort }) => heard.push(`${sourcePort} ${Buffer.from(bytes).toString()}`));
    // whoever closes twice does not close what another one opened meanwhile
    const first = open();
    first?.();
    const close = open();
    first?.();
    expect(hosts[1]?.listen(7000, () => undefined)).toBeUndefined();
    let refused = 0;
    for (const port of [7000, 7001])
      await hosts[0]?.sendUdp(two, { from: 5000, to: port }, Buffer.from('hello'), () => (refused += 1));
    await new Promise<void>((done) => void scheduler.after(50, done));
    expect([heard, refused]).toEqual([['5000 hello'], 1]);
    close?.();
    await hosts[0]?.sendUdp(two, { from: 5000, to: 7000 }, Buffer.from('again'), () => (refused += 1));
    await new Promise<void>((done) => void scheduler.after(50, done));
    expect([heard.length, refused]).toEqual([1, 2]);
  });

  test('talks to itself over loopback without any cable', async () => {
    const scheduler = startScheduler(50);
    running.push(scheduler);
    const host = new Host(scheduler);
    const heard: number[] = [];
    host.listen(9000, ({ bytes }) => heard.push(bytes[0] ?? 0));
    await host.sendUdp(0x7f000001, { from: 1, to: 9000 }, Uint8Array.of(42));
    await new Promise<void>((done) => void scheduler.after(5, done));
    expect([heard, (await host.ping(0x7f000001)) !== undefined]).toEqual([[42], true]);
  });

  test('answers a layer 2 probe whatever its subnet, but not from another segment', async () => {
    const { hosts } = site(2, { ips: [one, 0x0b000001] });
    expect(await hosts[0]?.probe('lan', '02:00:00:00:00:01')).toBe(true);
    expect(await hosts[0]?.probe('lan', '02:00:00:00:00:77')).toBe(false);
    expect(await hosts[0]?.ping(0x0b000001)).toBeUndefined();
  });
});

describe('simulated time', () => {
  test('runs events in the order of their times, with what follows at once before what comes later', async () => {
    const scheduler = startScheduler(1000);
    running.push(scheduler);
    const said: string[] = [];
    const done = new Promise<void>((finish) => {
      scheduler.after(30, () => {
        said.push('late');
        finish();
      });
      scheduler.after(10, () => {
        said.push('early');
        void Promise.resolve().then(() => scheduler.after(5, () => said.push('follows')));
      });
      scheduler.after(10, () => said.push('early too'));
      scheduler.after(20, () => said.push('never'))();
    });
    // the machine is busy for longer than all of it takes
    const until = performance.now() + 30;
    while (performance.now() < until);
    await done;
    expect(said).toEqual(['early', 'early too', 'follows', 'late']);
  });

  test('stands still after stop', async () => {
    const scheduler = startScheduler(1000);
    let ran = false;
    scheduler.after(1, () => (ran = true));
    scheduler.stop();
    await new Promise((done) => setTimeout(done, 20));
    expect(ran).toBe(false);
  });
});
