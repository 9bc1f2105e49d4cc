import { readOsc } from '@deep-patch/codecs';
import type { SoundRequest, Talk } from '../steps.ts';
import { hearStream } from '../stream-ear.ts';
import { framingOf } from './framing.ts';

/** Listens for OSC where the controller does: at the reply port of its entry, or on a connection that it keeps. */
export function hearOsc(
  request: SoundRequest,
  talk: Talk,
  tell: (what: string) => void,
): Promise<(() => void) | undefined> {
  if (talk.type.transport === 'tcp') {
    const reader = framingOf(talk.type).reader();
    return hearStream(request, talk, (chunk) => reader.push(chunk).flatMap((packet) => addressIn(packet))[0], tell);
  }
  const { replyPort } = request.link;
  if (replyPort === null) return Promise.resolve(undefined);
  const stop = talk.controller.host.tapInto(replyPort, ({ bytes }) => {
    for (const address of addressIn(bytes)) tell(address);
  });
  return Promise.resolve(stop);
}

function addressIn(bytes: Uint8Array): string[] {
  const read = readOsc(bytes);
  return read.ok && 'address' in read.packet ? [read.packet.address] : [];
}
