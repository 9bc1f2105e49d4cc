import { createSocket } from 'node:dgram';
import { Socket } from 'node:net';
import { networkInterfaces } from 'node:os';
import { dotted, undotted } from '../ether/dotted.ts';
import type { Wire, WireAdapter } from './wire.ts';

const answersWithinMs = 1000;
/** A port that nobody listens on: a refusal proves that the host is there as well as an answer does. */
const likelyClosed = 9;

/**
 * This machine's real network, through one adapter that an operator turned on; nothing is sent before that, and
 * nothing through any other adapter. Neighbours are not asked by ARP, which takes rights that this process has not:
 * a host is there when it answers or refuses a connection.
 */
export class FieldWire implements Wire {
  private adapter: WireAdapter | undefined;

  /** Turns one adapter on by its address, or all off by null. Throws a plain Error for an address that no adapter has. */
  turnOn(address: string | null): void {
    this.adapter = address === null ? undefined : ownAdapters().find(({ ip }) => dotted(ip) === address);
    if (address !== null && !this.adapter) throw new Error(`no adapter of this machine has ${address}`);
  }

  get isOn(): boolean {
    return this.adapter !== undefined;
  }

  adapters = (): readonly WireAdapter[] => (this.adapter ? [this.adapter] : []);

  whoHas = (): Promise<readonly string[]> => Promise.resolve([]);

  ping = async (ip: number): Promise<number | undefined> => {
    const start = performance.now();
    const outcome = await this.open(ip, likelyClosed);
    if (outcome === 'silent') return undefined;
    if (typeof outcome !== 'string') outcome.destroy();
    return performance.now() - start;
  };

  send = async (to: number, ports: { from: number; to: number }, bytes: Uint8Array): Promise<void> => {
    const own = this.ownAddress();
    const socket = createSocket({ type: 'udp4', reuseAddr: true });
    await new Promise<void>((done, refuse) => {
      socket.once('error', refuse);
      socket.bind(ports.from, own, () => {
        socket.send(bytes, ports.to, dotted(to), (error) => (error ? refuse(error) : done()));
      });
    }).finally(() => socket.close());
  };

  listen = async (
    port: number,
    group: number | null,
    receive: (bytes: Uint8Array, from: number) => void,
  ): Promise<(() => void) | undefined> => {
    const own = this.ownAddress();
    const socket = createSocket({ type: 'udp4', reuseAddr: group !== null });
    socket.on('message', (bytes, { address }) => receive(bytes, undotted(address)));
    const bound = await new Promise<boolean>((done) => {
      socket.once('error', () => done(false));
      socket.bind(port, group === null ? own : '0.0.0.0', () => done(true));
    });
    if (!bound) return undefined;
    socket.on('error', () => undefined);
    if (group !== null) socket.addMembership(dotted(group), own);
    return () => void socket.close();
  };

  open = (ip: number, port: number): Promise<Socket | 'refused' | 'silent'> => {
    const own = this.ownAddress();
    const socket = new Socket();
    return new Promise((done) => {
      socket.setTimeout(answersWithinMs, () => {
        socket.destroy();
        done('silent');
      });
      socket.once('error', ({ code }: NodeJS.ErrnoException) => done(code === 'ECONNREFUSED' ? 'refused' : 'silent'));
      socket.connect({ host: dotted(ip), port, localAddress: own }, () => {
        socket.setTimeout(0);
        done(socket);
      });
    });
  };

  wait = (ms: number): Promise<void> => new Promise((done) => setTimeout(done, ms));

  private ownAddress(): string {
    if (!this.adapter) throw new Error('the real network is off: turn one adapter on first');
    return dotted(this.adapter.ip);
  }
}

/** The loopback has none. */
const isNoMac = (mac: string): boolean => mac === '00:00:00:00:00:00';

/** IPv4 addresses of this machine's adapters. */
function ownAdapters(): WireAdapter[] {
  return Object.entries(networkInterfaces()).flatMap(([key, list]) =>
    (list ?? []).flatMap(({ family, address, cidr, mac }) =>
      family === 'IPv4'
        ? [{ key, ip: undotted(address), prefix: Number(cidr?.split('/')[1] ?? 32), mac: isNoMac(mac) ? null : mac }]
        : [],
    ),
  );
}
