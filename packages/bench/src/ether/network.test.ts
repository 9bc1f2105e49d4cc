import type { Frame } from '@deep-patch/codecs';
import { afterEach, describe, expect, test } from 'vitest';
import { Cable, copper, type Port, type RunQuality } from './cable.ts';
import { DhcpClient } from './dhcp-client.ts';
import { DhcpServer } from './dhcp-server.ts';
import { Host, type OwnAddress } from './host.ts';
import { startScheduler, type Scheduler } from './scheduler.ts';
import { Switch } from './switch.ts';

const running: Scheduler[] = [];
afterEach(() => running.splice(0).forEach((scheduler) => scheduler.stop()));

/** A network to plug together by hand, a thousand times faster than time. */
function lab() {
  const scheduler = startScheduler(1000);
  running.push(scheduler);
  const on = () => true;
  let nextMac = 1;
  const mac = () => `02:00:00:00:00:${(nextMac += 1).toString(16).padStart(2, '0')}`;
  return {
    scheduler,
    host: (...addresses: Partial<OwnAddress>[]) => {
      const host = new Host(scheduler);
      const own = addresses.map((each) => ({ ip: 0, prefix: 24, gateway: null, tag: null, ...each }));
      const port = host.addAdapter('lan', mac(), own, on);
      return { host, port, adapter: host.adapters[0] as (typeof host.adapters)[number] };
    },
    hub: (managed: boolean) => {
      const hub = new Switch(scheduler, on, managed ? mac() : undefined);
      hub.tree?.start();
      return hub;
    },
    plug: (a: Port, b: Port, quality: RunQuality = copper(1)) => new Cable([a, b], quality, scheduler, () => 0.5),
    wait: (ms: number) => new Promise<void>((done) => void scheduler.after(ms, done)),
  };
}
const ip = (last: number) => 0x0a000000 + last;

describe('VLANs', () => {
  test('what is in one VLAN does not reach another, across two switches, and a tagged host is in both', async () => {
    const { host, hub, plug, wait } = lab();
    const [one, two] = [hub(true), hub(true)];
    const [a, b, c] = [host({ ip: ip(1) }), host({ ip: ip(2) }), host({ ip: ip(3) })];
    const both = host({ ip: ip(4), tag: 20 }, { ip: 0x0b000004, tag: 30 });
    const d = host({ ip: 0x0b000005 });
    one.membership = new Map([
      ['a', { mode: 'access', vlan: 20 }],
      ['up', { mode: 'trunk', vlans: [20, 30] }],
      ['both', { mode: 'trunk', vlans: [20, 30] }],
    ]);
    two.membership = new Map([
      ['b', { mode: 'access', vlan: 20 }],
      ['c', { mode: 'access', vlan: 30 }],
      ['d', { mode: 'access', vlan: 30 }],
      ['up', { mode: 'trunk', vlans: [20, 30] }],
    ]);
    plug(a.port, one.addPort('a'));
    plug(both.port, one.addPort('both'));
    plug(one.addPort('up'), two.addPort('up'));
    for (const [key, unit] of [
      ['b', b],
      ['c', c],
      ['d', d],
    ] as const)
      plug(unit.port, two.addPort(key));
    await wait(2500);
    expect(await a.host.ping(ip(2))).toBeGreaterThan(0);
    expect(await a.host.ping(ip(3))).toBeUndefined();
    expect([await both.host.ping(ip(2)), await both.host.ping(0x0b000005)].every((ms) => ms !== undefined)).toBe(true);
    expect(await a.host.probe('lan', c.adapter.mac)).toBe(false);
  });
});

describe('loops', () => {
  const triangle = () => {
    const net = lab();
    const hubs = [net.hub(true), net.hub(true), net.hub(true)] as const;
    const units = [net.host({ ip: ip(1) }), net.host({ ip: ip(2) }), net.host({ ip: ip(3) })] as const;
    for (const [at, hub] of hubs.entries()) net.plug((units[at] ?? units[0]).port, hub.addPort('unit'));
    const ring = [
      [0, 1],
      [1, 2],
      [2, 0],
    ].map(([a = 0, b = 0]) =>
      net.plug((hubs[a] ?? hubs[0]).addPort(`to ${b}`), (hubs[b] ?? hubs[0]).addPort(`to ${a}`)),
    );
    return { ...net, hubs, units, ring };
  };

  test('spanning tree shuts one socket of a ring, and the network heals when another cable is pulled', async () => {
    const { hubs, units, ring, wait } = triangle();
    await wait(2500);
    expect(hubs.flatMap((hub) => hub.tree?.shut() ?? [])).toHaveLength(1);
    for (const target of [2, 3]) expect(await units[0].host.ping(ip(target))).toBeGreaterThan(0);
    expect(hubs.some((hub) => hub.isStorming())).toBe(false);
    for (const cable of ring) {
      cable.cut = true;
      await wait(9000);
      for (const target of [2, 3]) expect(await units[0].host.ping(ip(target))).toBeGreaterThan(0);
      cable.cut = false;
      await wait(9000);
    }
  });

  test('news of a change reaches every switch, goes nowhere twice, and ends', async () => {
    const { hubs, ring, wait } = triangle();
    const changes: number[] = [];
    for (const hub of hubs)
      if (hub.tree)
        hub.tree.onSend = ({ body }) => {
          if (body.kind === 'bpdu' && body.change) changes.push(body.port);
        };
    await wait(20_000);
    changes.length = 0;
    (ring[0] as (typeof ring)[number]).cut = true;
    await wait(9000);
    expect(changes.length).toBeGreaterThan(0);
    expect(changes.length).toBeLessThan(40);
    changes.length = 0;
    await wait(20_000);
    expect(changes).toEqual([]);
  });

  test('without it one broadcast storms, the storm is contained, and it is over once the loop is open', async () => {
    const { hubs, units, ring, wait, hub: another, plug } = triangle();
    for (const hub of hubs) if (hub.tree) hub.tree.active = false;
    const leaf = another(false);
    plug(leaf.addPort('up'), hubs[0].addPort('down'));
    await wait(200);
    expect(await units[0].host.ping(ip(2))).toBeUndefined();
    expect(hubs.filter((hub) => hub.isStorming()).length).toBeGreaterThan(0);
    await wait(500);
    // what hangs on the ring is flooded too, and lies on no circle
    expect(leaf.isStorming()).toBe(true);
    expect([...hubs, leaf].map((hub) => hub.circling().sort())).toEqual([
      ['to 1', 'to 2'],
      ['to 0', 'to 2'],
      ['to 0', 'to 1'],
      [],
    ]);
    const [first] = ring;
    if (first) first.cut = true;
    for (const hub of [...hubs, leaf]) hub.calm();
    await wait(100);
    expect(hubs.map((hub) => hub.circling())).toEqual([[], [], []]);
    expect(await units[0].host.ping(ip(2))).toBeGreaterThan(0);
  });

  test('plain switches pass bridge messages on, so a managed one notices a loop through them', async () => {
    const { hub, host, plug, wait } = lab();
    const [managed, plain] = [hub(true), hub(false)];
    plug(managed.addPort('one'), plain.addPort('one'));
    plug(managed.addPort('two'), plain.addPort('two'));
    const [a, b] = [host({ ip: ip(1) }), host({ ip: ip(2) })];
    plug(a.port, managed.addPort('a'));
    plug(b.port, plain.addPort('b'));
    await wait(2500);
    expect(managed.tree?.shut()).toEqual(['two']);
    expect(await a.host.ping(ip(2))).toBeGreaterThan(0);
  });
});

describe('addresses', () => {
  const pool = {
    id: 'net',
    network: 0x0a000000,
    prefix: 24,
    from: ip(100),
    to: ip(101),
    gateway: ip(1),
    reserved: new Map<string, number>(),
  };

  test('DHCP gives the reserved one, else the lowest free one, and none when the pool is used up', async () => {
    const { host, hub, plug, wait } = lab();
    const [router, reserved, first, second, third] = [host({ ip: ip(1) }), host(), host(), host(), host()];
    const box = hub(false);
    for (const [at, { port }] of [router, reserved, first, second, third].entries()) plug(port, box.addPort(`p${at}`));
    const server = new DhcpServer(router.host, [{ ...pool, reserved: new Map([[reserved.adapter.mac, ip(50)]]) }]);
    server.start();
    for (const unit of [reserved, first, second, third]) {
      unit.adapter.addresses = [];
      new DhcpClient(unit.host, unit.adapter, 'unit').start('dhcp');
      await wait(600);
    }
    await wait(12_000);
    expect([reserved, first, second].map(({ adapter }) => adapter.addresses[0])).toEqual(
      [50, 100, 101].map((last) => ({ ip: ip(last), prefix: 24, gateway: ip(1), tag: null, leased: true })),
    );
    // who gets none gives itself one (RFC 3927)
    expect((third.adapter.addresses[0]?.ip ?? 0) >>> 16).toBe(0xa9fe);
    expect(await first.host.ping(ip(101))).toBeGreaterThan(0);
  });

  test('a server that lost its power forgets its leases: whoever asks first has the lower address then', async () => {
    const { host, hub, plug, wait } = lab();
    const [router, a, b] = [host({ ip: ip(1) }), host(), host()];
    const box = hub(false);
    for (const [at, { port }] of [router, a, b].entries()) plug(port, box.addPort(`p${at}`));
    const server = new DhcpServer(router.host, [pool]);
    const clients: DhcpClient[] = [];
    const ask = async (...units: (typeof a)[]) => {
      server.stop?.();
      server.start();
      for (const { adapter } of units) adapter.addresses = [];
      for (const client of clients.splice(0)) client.stop();
      for (const { host: own, adapter } of units) {
        const client = new DhcpClient(own, adapter, 'unit');
        clients.push(client);
        client.start('dhcp');
        await wait(800);
      }
      return [a, b].map(({ adapter }) => (adapter.addresses[0]?.ip ?? 0) & 255);
    };
    expect([await ask(a, b), await ask(b, a)]).toEqual([
      [100, 101],
      [101, 100],
    ]);
  });

  test('two hosts that probe for one address at once both let go of it, and end up on two', async () => {
    const { host, hub, plug, wait } = lab();
    const units = [host(), host()];
    const box = hub(false);
    const both = 0xa9fe4242;
    for (const [at, unit] of units.entries()) {
      plug(unit.port, box.addPort(`p${at}`));
      unit.adapter.addresses = [];
      new DhcpClient(unit.host, unit.adapter, 'unit').start('self', both);
    }
    await wait(30_000);
    const [first, second] = units.map(({ adapter }) => adapter.addresses[0]?.ip ?? 0);
    expect([first, second].map((own = 0) => own >>> 16)).toEqual([0xa9fe, 0xa9fe]);
    expect([first === second, first === both && second === both]).toEqual([false, false]);
  });

  test('both owners of one address learn of the other when the second comes up', async () => {
    const { host, hub, plug, wait } = lab();
    const [a, b] = [host({ ip: ip(9) }), host({ ip: ip(9) })];
    const box = hub(false);
    plug(a.port, box.addPort('a'));
    plug(b.port, box.addPort('b'));
    a.host.neighbours.announce(a.adapter);
    b.host.neighbours.announce(b.adapter);
    await wait(50);
    expect([a.host.neighbours.conflicts.get(ip(9)), b.host.neighbours.conflicts.get(ip(9))]).toEqual([
      b.adapter.mac,
      a.adapter.mac,
    ]);
  });
});

describe('beyond the subnet', () => {
  test('a router passes packets on between two networks, and only for hosts that know it', async () => {
    const { host, hub, plug, wait } = lab();
    const box = hub(false);
    const router = host({ ip: ip(1) }, { ip: 0x0b000001 });
    router.host.routes = true;
    const near = host({ ip: ip(2), gateway: ip(1) });
    const far = host({ ip: 0x0b000002, gateway: 0x0b000001 });
    const lost = host({ ip: 0x0b000003 });
    for (const [at, { port }] of [router, near, far, lost].entries()) plug(port, box.addPort(`p${at}`));
    await wait(10);
    expect(await near.host.ping(0x0b000002)).toBeGreaterThan(0);
    expect(await near.host.ping(0x0b000003)).toBeUndefined();
    expect(await lost.host.ping(ip(2))).toBeUndefined();
  });

  test('groups end at the edge of the segment', async () => {
    const { host, hub, plug, wait } = lab();
    const [left, right] = [hub(false), hub(false)];
    const router = host({ ip: ip(1) });
    const second = router.host.addAdapter(
      'lan2',
      '02:00:00:00:01:01',
      [{ ip: 0x0b000001, prefix: 24, gateway: null, tag: null }],
      () => true,
    );
    router.host.routes = true;
    const [asks, hears, beyond] = [host({ ip: ip(2), gateway: ip(1) }), host({ ip: ip(3) }), host({ ip: 0x0b000002 })];
    plug(router.port, left.addPort('r'));
    plug(second, right.addPort('r'));
    plug(asks.port, left.addPort('a'));
    plug(hears.port, left.addPort('b'));
    plug(beyond.port, right.addPort('c'));
    const heard: string[] = [];
    for (const [name, { host: own }] of [
      ['near', hears],
      ['beyond', beyond],
    ] as const) {
      own.join(0xe00000fb);
      own.listen(5353, () => heard.push(name));
    }
    await asks.host.sendUdp(0xe00000fb, { from: 5353, to: 5353 }, Uint8Array.of(1));
    await wait(50);
    expect(heard).toEqual(['near']);
  });

  test('a firewall keeps out what comes unasked, without a word, and lets answers in', async () => {
    const { host, plug, wait } = lab();
    const [open, shut] = [host({ ip: ip(1) }), host({ ip: ip(2) })];
    plug(open.port, shut.port);
    shut.host.admits = () => false;
    await wait(10);
    expect(await open.host.ping(ip(2))).toBeUndefined();
    expect(await open.host.tcp.connect(ip(2), 80)).toBe('silent');
    expect(await shut.host.ping(ip(1))).toBeGreaterThan(0);
    expect(await shut.host.tcp.connect(ip(1), 80)).toBe('refused');
  });
});

test('a slow hop queues what comes too fast, and loses what its buffer cannot hold', async () => {
  const { host, plug, wait, scheduler } = lab();
  const [a, b] = [host({ ip: ip(1) }), host({ ip: ip(2) })];
  plug(a.port, b.port, { delayMs: 1, jitterMs: 0, loss: 0, rate: 100_000 });
  const arrivals: number[] = [];
  b.host.listen(9000, () => arrivals.push(scheduler.now()));
  await a.host.resolve(ip(2));
  const sent: Frame[] = [];
  a.host.watchSent((frame) => sent.push(frame));
  // all at once in simulated time, which stands still within an event
  scheduler.after(0, () => {
    for (let n = 0; n < 20; n += 1) void a.host.sendUdp(ip(2), { from: 1, to: 9000 }, new Uint8Array(400));
  });
  await wait(2000);
  // 466 bytes with all headers take 37.28 ms at 100 kbit/s; a quarter of a second holds seven
  const gaps = arrivals.slice(1).map((at, n) => at - (arrivals[n] ?? 0));
  expect(sent).toHaveLength(20);
  expect(arrivals.length).toBeGreaterThanOrEqual(7);
  expect(arrivals.length).toBeLessThanOrEqual(9);
  for (const gap of gaps) expect(gap).toBeCloseTo(37.28, 1);
});
