import { readOsc } from '@deep-patch/codecs';
import { newsInOsc } from '../news.ts';
import type { Ear } from '../protocol.ts';
import type { SoundRequest, Talk } from '../steps.ts';
import { hearStream } from '../stream-ear.ts';
import { framingOf } from './framing.ts';

/** Listens for OSC where the controller does: at the reply port of its entry, or on a connection that it keeps. */
export function hearOsc(request: SoundRequest, talk: Talk, ear: Ear): Promise<(() => void) | undefined> {
  if (talk.type.transport === 'tcp') {
    const reader = framingOf(talk.type).reader();
    const take = (chunk: Uint8Array) => {
      for (const packet of reader.push(chunk)) hearPacket(packet, talk, ear);
    };
    return hearStream(request, talk, take, ear);
  }
  const { replyPort } = request.link;
  if (replyPort === null) return Promise.resolve(undefined);
  const stop = talk.controller.host.tapInto(replyPort, ({ bytes }) => {
    hearPacket(bytes, talk, ear);
  });
  return Promise.resolve(stop);
}

function hearPacket(bytes: Uint8Array, { type }: Talk, { tell }: Ear): void {
  const read = readOsc(bytes);
  if (read.ok && 'address' in read.packet) tell(read.packet.address, newsInOsc(type.commands, read.packet));
}
