import { createServer } from 'node:net';
import { once } from 'node:events';
import type { AddressInfo } from 'node:net';
import type { Duplex } from 'node:stream';
import { afterEach, describe, expect, test } from 'vitest';
import { Cable, copper } from '../ether/cable.ts';
import { Host } from '../ether/host.ts';
import { startScheduler } from '../ether/scheduler.ts';
import { FieldWire } from './field-wire.ts';
import { benchWire, type Wire } from './wire.ts';

const loopback = 0x7f000001;
const closers: (() => void)[] = [];
afterEach(() => closers.splice(0).forEach((close) => close()));

/** Both kinds of network with one host that echoes on a TCP port: whoever uses a wire cannot tell them apart. */
const kinds: readonly [string, () => Promise<{ wire: Wire; far: number; open: number; closed: number }>][] = [
  [
    'the simulated network',
    () => {
      const scheduler = startScheduler(50);
      closers.push(() => scheduler.stop());
      const hosts = [new Host(scheduler), new Host(scheduler)] as const;
      const ports = hosts.map((host, at) =>
        host.addAdapter(
          'lan',
          `02:00:00:00:00:0${at}`,
          [{ ip: 0x0a000001 + at, prefix: 24, gateway: null, tag: null }],
          () => true,
        ),
      );
      if (ports[0] && ports[1]) new Cable([ports[0], ports[1]], copper(1), scheduler, () => 0.5);
      hosts[1].tcp.listen(7000, (stream) => stream.pipe(stream));
      return Promise.resolve({ wire: benchWire(hosts[0]), far: 0x0a000002, open: 7000, closed: 7001 });
    },
  ],
  [
    'loopback of this machine',
    async () => {
      const server = createServer((socket) => socket.pipe(socket)).listen(0, '127.0.0.1');
      await once(server, 'listening');
      closers.push(() => server.close());
      const wire = new FieldWire();
      wire.turnOn('127.0.0.1');
      const spare = createServer().listen(0, '127.0.0.1');
      await once(spare, 'listening');
      const closed = (spare.address() as AddressInfo).port;
      spare.close();
      return { wire, far: loopback, open: (server.address() as AddressInfo).port, closed };
    },
  ],
];

describe.each(kinds)('%s', (_name, make) => {
  test('a stream opens, answers and is told from a closed port; a host that is there answers', async () => {
    const { wire, far, open, closed } = await make();
    const stream = await wire.open(far, open);
    expect(typeof stream).toBe('object');
    const duplex = stream as Duplex;
    const answer = once(duplex, 'data') as Promise<[Buffer]>;
    duplex.write('high tide');
    expect((await answer)[0].toString()).toBe('high tide');
    duplex.destroy();
    expect(await wire.open(far, closed)).toBe('refused');
    expect(await wire.ping(far)).toBeGreaterThanOrEqual(0);
    expect(wire.adapters()).toHaveLength(1);
  });

  test('datagrams are sent and heard, and a port is given back', async () => {
    const { wire } = await make();
    const own = wire.adapters()[0]?.ip ?? 0;
    const heard: string[] = [];
    const stop = await wire.listen(48_213, null, (bytes) => heard.push(Buffer.from(bytes).toString()));
    await wire.send(own, { from: 48_214, to: 48_213 }, Buffer.from('ebb'));
    for (let tries = 0; tries < 50 && heard.length === 0; tries += 1) await wire.wait(20);
    expect(heard).toEqual(['ebb']);
    stop?.();
  });
});

test('the real network is off until one adapter is turned on, and then it is that adapter only', async () => {
  const wire = new FieldWire();
  expect([wire.isOn, wire.adapters()]).toEqual([false, []]);
  await expect(wire.send(loopback, { from: 0, to: 9 }, Uint8Array.of(1))).rejects.toThrow('the real network is off');
  expect(() => wire.open(loopback, 9)).toThrow('the real network is off');
  expect(() => wire.turnOn('203.0.113.9')).toThrow('no adapter of this machine has 203.0.113.9');
  wire.turnOn('127.0.0.1');
  expect(wire.isOn).toBe(true);
  wire.turnOn(null);
  expect(wire.isOn).toBe(false);
});
