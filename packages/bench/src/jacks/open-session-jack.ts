import { createSocket, type Socket } from 'node:dgram';
import type { Host } from '../ether/host.ts';
import type { Jack } from './open-jack.ts';

const address = '127.0.0.1';
const attempts = 20;
/** Outside peers appear on a stand-in's host under an address of this range, which nothing else uses there. */
const outsideRange = 0x7f4d0000;
let nextOutside = 1;

export interface SessionDoor {
  readonly deviceId: string;
  readonly serviceKey: string;
  /** The stand-in's host and the control port of its session; undefined while it is not there. */
  readonly unit: () => { readonly host: Host; readonly controlPort: number } | undefined;
}

/**
 * Two real sockets side by side in front of a session of network MIDI: control and data. What comes in is handed to
 * the stand-in's host as if it had come over its network; what the host sends back leaves through the same socket.
 */
export async function openSessionJack({ deviceId, serviceKey, unit }: SessionDoor): Promise<Jack> {
  const [control, data] = await pairOfSockets();
  const outside = outsideRange + nextOutside;
  nextOutside += 1;
  for (const [offset, socket] of [control, data].entries())
    socket.on('message', (bytes, { port }) => {
      const here = unit();
      if (!here) return;
      const { host, controlPort } = here;
      host.outside.set(outside, ({ from, to }, answer) =>
        (from === controlPort ? control : data).send(answer, to, address, () => undefined),
      );
      host.takeFromOutside(outside, { from: port, to: controlPort + offset }, bytes);
    });
  const { port } = control.address();
  const close = () => {
    control.close();
    data.close();
  };
  return { deviceId, serviceKey, replyTo: null, host: address, port, dropped: () => 0, close };
}

async function pairOfSockets(): Promise<readonly [Socket, Socket]> {
  for (let attempt = 0; attempt < attempts; attempt += 1) {
    const control = await bound(0);
    const data = control && (await bound(control.address().port + 1));
    if (control && data) return [control, data];
    control?.close();
  }
  throw new Error('no two free ports side by side');
}

function bound(port: number): Promise<Socket | undefined> {
  const socket = createSocket('udp4');
  return new Promise((done) => {
    socket.once('error', () => done(undefined));
    socket.bind(port, address, () => {
      socket.removeAllListeners('error');
      socket.on('error', () => undefined);
      done(socket);
    });
  });
}
