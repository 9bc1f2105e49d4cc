import { createSocket } from 'node:dgram';
import { createServer } from 'node:net';
import type { Duplex } from 'node:stream';
import type { show as core } from '@deep-patch/core';
import { writeOsc, type OscPacket } from '@deep-patch/codecs';

export interface Jack extends core.JackState {
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

function openDatagrams({ deviceId, serviceKey, replyTo, takeIn }: JackDoor): Promise<Jack> {
  const socket = createSocket({ type: 'udp4', recvBufferSize: 4 << 20 });
  socket.on('message', (bytes, { port }) =>
    takeIn(bytes, 'outside tool', (reply) => socket.send(writeOsc(reply), replyTo ?? port, host)),
  );
  return new Promise((done, refuse) => {
    socket.once('error', refuse);
    socket.bind(0, host, () => {
      socket.off('error', refuse);
      socket.on('error', () => undefined);
      const { port } = socket.address();
      done({ deviceId, serviceKey, replyTo, host, port, close: () => socket.close() });
    });
  });
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
      done({ deviceId, serviceKey, replyTo: null, host, port, close: () => server.close() });
    });
  });
}
