import { createServer, type Socket } from 'node:net';
import type { Frame } from '@deep-patch/codecs';
import type { contract } from '@deep-patch/core';
import { undotted } from '../ether/dotted.ts';
import type { Scheduler } from '../ether/scheduler.ts';
import type { Protocol } from '../protocols/protocol.ts';
import { Intake } from './intake.ts';
import { OutsidePeer, type Unit } from './outside-peer.ts';
import { openThreadSockets } from './socket-thread.ts';

export interface Jack extends Omit<contract.JackState, 'dropped'> {
  /** Messages that came too fast to be taken in; streams lose nothing. */
  readonly dropped: () => number;
  readonly close: () => void;
}

export interface JackDoor {
  readonly deviceId: string;
  readonly serviceKey: string;
  /** Where outside tools want replies; null sends them back to the port that asked. */
  readonly replyTo: number | null;
  readonly transport: 'udp' | 'tcp';
  /** How many ports side by side the service has. */
  readonly ports: number;
  /** How many messages a datagram holds. */
  readonly weigh: NonNullable<Protocol['jack']['weigh']>;
  /** The stand-in and its service's port; undefined while it is not there. */
  readonly unit: () => (Unit & { readonly port: number }) | undefined;
  readonly scheduler: Scheduler;
  readonly tell: (frame: Frame) => void;
}

const host = '127.0.0.1';
const mostConnections = 32;
const mostPeers = 64;

/** A real socket on loopback in front of a stand-in's service, so that any outside tool can talk to it. */
export const openJack = (door: JackDoor): Promise<Jack> =>
  door.transport === 'udp' ? openDatagrams(door) : openStreams(door);

/** Everybody who came through a jack, by the real address: whoever asks gets the answer. */
class Peers {
  private readonly known = new Map<number, OutsidePeer>();
  private readonly make: (address: number) => OutsidePeer;

  constructor(make: (address: number) => OutsidePeer) {
    this.make = make;
  }

  at(address: number): OutsidePeer {
    const known = this.known.get(address);
    if (known) return known;
    if (this.known.size >= mostPeers) this.leave();
    const fresh = this.make(address);
    this.known.set(address, fresh);
    return fresh;
  }

  leave(): void {
    for (const peer of this.known.values()) peer.leave();
    this.known.clear();
  }
}

async function openDatagrams(door: JackDoor): Promise<Jack> {
  const { deviceId, serviceKey, replyTo, unit, scheduler, tell, weigh } = door;
  const intake = new Intake();
  const peers = new Peers(
    (address) =>
      new OutsidePeer({
        unit,
        scheduler,
        tell,
        hear: ({ fromPort, toPort, bytes }) => {
          const first = unit()?.port ?? fromPort;
          socket.send({ bytes, address, port: replyTo ?? toPort, socket: fromPort - first });
        },
      }),
  );
  const socket = await openThreadSockets(door.ports, ({ bytes, ends, addresses, ports, sockets }) => {
    scheduler.catchUp();
    const work = (at: number) => {
      const here = unit();
      if (!here) return;
      const datagram = bytes.subarray(ends[at - 1] ?? 0, ends[at]);
      const to = here.port + (sockets[at] ?? 0);
      peers.at(addresses[at] ?? 0).send({ from: ports[at] ?? 0, to }, datagram, here);
    };
    intake.take({ weights: ends.map((end, at) => weigh(bytes, ends[at - 1] ?? 0, end)), work });
  });
  const { port } = socket;
  const close = () => {
    peers.leave();
    socket.close();
  };
  return { deviceId, serviceKey, replyTo, host, port, dropped: () => intake.dropped, close };
}

function openStreams({ deviceId, serviceKey, unit, scheduler, tell }: JackDoor): Promise<Jack> {
  const peers = new Peers(() => new OutsidePeer({ unit, scheduler, tell, hear: () => undefined }));
  const server = createServer({ allowHalfOpen: true }, (socket) => {
    socket.on('error', () => socket.destroy());
    scheduler.catchUp();
    const peer = peers.at(undotted(socket.remoteAddress ?? host));
    join(socket, peer, unit()?.port, () => scheduler.catchUp()).catch(() => socket.destroy());
  });
  server.maxConnections = mostConnections;
  return new Promise((done, refuse) => {
    server.once('error', refuse);
    server.listen(0, host, () => {
      server.off('error', refuse);
      server.on('error', () => undefined);
      const address = server.address();
      const port = typeof address === 'object' && address ? address.port : 0;
      done({ deviceId, serviceKey, replyTo: null, host, port, dropped: () => 0, close: () => server.close() });
    });
  });
}

/** Joins a real connection and one over the simulated network, and tells when anything comes; each ends with the other. */
async function join(socket: Socket, peer: OutsidePeer, port: number | undefined, onData: () => void): Promise<void> {
  const stream = port === undefined ? 'silent' : await peer.connect(port);
  if (typeof stream === 'string') {
    socket.destroy();
    return;
  }
  stream.on('close', () => socket.destroySoon());
  socket.on('close', () => stream.end());
  socket.on('data', onData);
  socket.pipe(stream);
  stream.pipe(socket);
}
