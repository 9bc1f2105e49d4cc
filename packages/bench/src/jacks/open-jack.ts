import type { show as core } from '@deep-patch/core';
import { createSocket } from 'node:dgram';
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
}

/** A real UDP socket on loopback in front of a stand-in's OSC input, so that any outside tool can talk to it. */
export function openJack({ deviceId, serviceKey, replyTo, takeIn }: JackDoor): Promise<Jack> {
  const socket = createSocket({ type: 'udp4', recvBufferSize: 4 << 20 });
  socket.on('message', (bytes, { port }) =>
    takeIn(bytes, 'outside tool', (reply) => socket.send(writeOsc(reply), replyTo ?? port, '127.0.0.1')),
  );
  return new Promise((done, refuse) => {
    socket.once('error', refuse);
    socket.bind(0, '127.0.0.1', () => {
      socket.off('error', refuse);
      socket.on('error', () => undefined);
      done({
        deviceId,
        serviceKey,
        replyTo,
        host: '127.0.0.1',
        port: socket.address().port,
        close: () => socket.close(),
      });
    });
  });
}
