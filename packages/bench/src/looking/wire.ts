import type { Duplex } from 'node:stream';
import type { Host } from '../ether/host.ts';

export interface WireAdapter {
  readonly key: string;
  readonly ip: number;
  readonly prefix: number;
  readonly mac: string | null;
}

/**
 * A network as one computer sees it: simulated or real. Whatever looks for units or talks to them goes through this,
 * and is the same in both.
 */
export interface Wire {
  readonly adapters: () => readonly WireAdapter[];
  /** MAC addresses that claim an address; none when nobody does or the network cannot tell. */
  readonly whoHas: (ip: number) => Promise<readonly string[]>;
  /** Milliseconds until it answered. */
  readonly ping: (ip: number) => Promise<number | undefined>;
  readonly send: (to: number, ports: { from: number; to: number }, bytes: Uint8Array) => Promise<void>;
  /** Hears datagrams on a port, those of a group too; answers how to stop, or undefined when the port is taken. */
  readonly listen: (
    port: number,
    group: number | null,
    receive: (bytes: Uint8Array, from: number) => void,
  ) => Promise<(() => void) | undefined>;
  readonly open: (ip: number, port: number) => Promise<Duplex | 'refused' | 'silent'>;
  readonly wait: (ms: number) => Promise<void>;
}

/** The simulated network from where one host is plugged in. */
export function benchWire(host: Host): Wire {
  return {
    adapters: () =>
      host.adapters.flatMap(({ key, mac, addresses }) => addresses.map(({ ip, prefix }) => ({ key, mac, ip, prefix }))),
    whoHas: async (ip) => {
      const found = await host.resolve(ip);
      return typeof found === 'object' ? found.macs : [];
    },
    ping: (ip) => host.ping(ip),
    send: (to, ports, bytes) => host.sendUdp(to, ports, bytes),
    listen: (port, group, receive) => {
      if (group !== null) host.join(group);
      const before = host.tapInto(port, ({ bytes, source }) => receive(bytes, source));
      return Promise.resolve(before);
    },
    open: (ip, port) => host.tcp.connect(ip, port),
    wait: (ms) => new Promise((done) => void host.scheduler.after(ms, done)),
  };
}
