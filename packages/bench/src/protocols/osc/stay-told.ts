import { writeOsc } from '@deep-patch/codecs';
import { asksOf } from '../asks-of.ts';
import type { Ear } from '../protocol.ts';
import { addressOf, ownPort, type SoundRequest, type Talk } from '../steps.ts';
import { hearOsc } from './hear-osc.ts';

/** Whoever has not asked for a minute hears no more (`subscribedMs` of the service): so often it is asked anew. */
const askEveryMs = 20_000;

/**
 * Keeps being told over OSC: on a connection by keeping it, with datagrams by asking again before the target forgets
 * who asked. Undefined where nothing has to be done for that.
 */
export function stayTold(request: SoundRequest, talk: Talk, ear: Ear): Promise<(() => void) | undefined> {
  if (talk.type.transport === 'tcp') return hearOsc(request, talk, ear);
  const asks = asksOf(talk.type);
  if (asks.length === 0) return Promise.resolve(undefined);
  const { host } = talk.controller;
  const { link } = request;
  let cancel: () => void = () => undefined;
  const round = () => {
    for (const command of asks) {
      const bytes = writeOsc({ address: addressOf(command, { ...link, args: [] }, 'osc'), args: [] });
      void host.sendUdp(talk.ip, { from: link.replyPort ?? ownPort, to: link.port }, bytes);
    }
    cancel = host.scheduler.after(askEveryMs, round);
  };
  round();
  return Promise.resolve(() => cancel());
}
