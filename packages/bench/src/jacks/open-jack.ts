import { createServer } from 'node:net';
import type { Duplex } from 'node:stream';
import type { show as core } from '@deep-patch/core';
import { writeOsc, type OscPacket } from '@deep-patch/codecs';
import { Intake } from './intake.ts';
import { openThreadSocket } from './socket-thread.ts';

export interface Jack extends Omit<core.JackState, 'dropped'> {
  /** Datagrams that came too fast to be taken in; streams lose nothing. */
  readonly dropped: () => number;
  readonly close: () => void;
}

export interface JackDoor {
  readonly deviceId: string;
  readonly serviceKey: string;
  /** Where outside tools want replies on 127.0.0.1; null sends them back to where the datagram came from. */
  readonly replyTo: number | null;
  readonly takeIn: (bytes: Uint8Array, from: string, answer: (reply: OscPacket) => void) => void;
  /** Takes a connection of a service over TCP; false when the unit is not there to take it. */
  readonly takeStream: (stream: Duplex) => boolean;
}

const host = '127.0.0.1';
const mostConnections = 32;

/** A real socket on loopback in front of a stand-in's service, so that any outside tool can talk to it. */
export const openJack = (transport: 'udp' | 'tcp', door: JackDoor): Promise<Jack> =>
  transport === 'udp' ? openDatagrams(door) : openStreams(door);

async function openDatagrams({ deviceId, serviceKey, replyTo, takeIn }: JackDoor): Promise<Jack> {
  let send: (bytes: Uint8Array, port: number) => void = () => undefined;
  const intake = new Intake();
  const socket = await openThreadSocket(({ bytes, ends, ports }) => {
    const work = (at: number) => {
      const answer = (reply: OscPacket) => send(writeOsc(reply), replyTo ?? ports[at] ?? 0);
      takeIn(bytes.subarray(ends[at - 1] ?? 0, ends[at]), 'outside tool', answer);
    };
    intake.take({ count: ends.length, work });
  });
  ({ send } = socket);
  const { port, close } = socket;
  return { deviceId, serviceKey, replyTo, host, port, dropped: () => intake.dropped, close };
}

function openStreams({ deviceId, serviceKey, takeStream }: JackDoor): Promise<Jack> {
  const server = createServer((socket) => {
    socket.on('error', () => socket.destroy());
    if (!takeStream(socket)) socket.destroy();
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
