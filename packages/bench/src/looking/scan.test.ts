import { expect, test } from 'vitest';
import { scan } from './scan.ts';
import type { Wire } from './wire.ts';

/** A network on which nobody answers, of these adapters. */
const emptyWire = (...adapters: readonly (readonly [ip: number, prefix: number])[]): Wire => ({
  adapters: () => adapters.map(([ip, prefix], at) => ({ key: `a${at}`, mac: `02:00:00:00:00:0${at}`, ip, prefix })),
  whoHas: () => Promise.resolve([]),
  ping: () => Promise.resolve(undefined),
  send: () => Promise.resolve(),
  listen: () => Promise.resolve(() => undefined),
  open: () => Promise.resolve('silent'),
  wait: () => Promise.resolve(),
});
const look = (wire: Wire, stopsAt = Infinity) => {
  let steps = 0;
  const isStopped = () => steps >= stopsAt;
  return scan({ wire, name: 'Laptop', ports: [], at: 1, tell: () => (steps += 1), isStopped });
};

test('only a subnet that was asked to its end tells who is gone: none that is too large, and none after a stop', async () => {
  const wire = emptyWire([0x0a010009, 24], [0x0a020109, 22], [0x0a030009, 21], [0x0a640009, 8]);
  const { hosts, swept } = await look(wire);
  expect(swept).toEqual([
    { ip: '10.1.0.9', prefix: 24 },
    { ip: '10.2.1.9', prefix: 22 },
  ]);
  expect(hosts.map(({ names, ips }) => [names, ips[0]?.ip])).toEqual(
    ['10.1.0.9', '10.2.1.9', '10.3.0.9', '10.100.0.9'].map((ip) => [['Laptop'], ip]),
  );
  expect((await look(wire, 3)).swept).toEqual([]);
});
