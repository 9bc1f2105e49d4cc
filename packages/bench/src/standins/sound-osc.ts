import { readOsc, SlipReader, writeOsc, writeSlip } from '@deep-patch/codecs';
import {
  addressOf,
  bad,
  faceWords,
  good,
  later,
  mark,
  oscArgs,
  pair,
  replyWaitMs,
  rounded,
  showReply,
  until,
  type SeenLayers,
  type SoundRequest,
  type Talk,
} from './sound-steps.ts';

/** Sends the link's OSC message and listens where the controller listens. */
export async function exchangeOsc(
  request: SoundRequest,
  { controller, target, service, port, command, ip }: Talk,
  seen: SeenLayers,
): Promise<number | null> {
  const { link } = request;
  const scheduler = controller.host.scheduler;
  const message = { address: link.command === null ? '/' : addressOf(command, link), args: oscArgs(command, link) };
  const [heardBefore, actedBefore] = [target.memory.heard, target.memory.lastAt];
  let refused = false;
  let replied: { readonly at: number; readonly text: string } | undefined;
  const own = link.replyPort ?? 0;
  const ear =
    own > 0 &&
    controller.host.listen(own, ({ bytes }) => {
      const read = readOsc(bytes);
      if (read.ok && 'address' in read.packet) replied ??= { at: scheduler.now(), text: read.packet.address };
    });
  const start = scheduler.now();
  // an own source port per sounding: a reply to the sender comes back to where the controller listens
  await controller.host.sendUdp(ip, { from: own || 49_151, to: link.port }, writeOsc(message), () => (refused = true));
  const expects = command?.reply != null;
  await until(
    scheduler,
    replyWaitMs,
    () => refused || replied !== undefined || (!expects && target.memory.heard > heardBefore),
  );
  if (ear) controller.host.close(own);
  if (refused || service.receivePort !== link.port) return mark(seen, 'port', bad('refused', { port }));
  mark(seen, 'port', good('open', { port }));
  if (target.memory.heard === heardBefore) return mark(seen, 'service', bad('silent'));
  pair(seen, 'service', good('runs'), 'access', good('let_in'));
  if (link.command === null) return mark(seen, 'message', later('none'));
  if (target.memory.lastAt === actedBefore) return mark(seen, 'message', bad('refused', { sent: message.address }));
  mark(seen, 'message', good('acted', { did: faceWords(target) }));
  if (!expects) return mark(seen, 'reply', good('not_expected'));
  if (!replied) return mark(seen, 'reply', bad('missing', { port: own }));
  const ms = rounded(replied.at - start);
  mark(seen, 'reply', good('came', { ms }));
  showReply(controller, replied.text);
  return ms;
}

/** Over a stream: OSC packets framed by SLIP, or lines of text; the answer comes on the same connection. */
export async function exchangeStream(
  { link }: SoundRequest,
  { controller, target, port, command, ip }: Talk,
  seen: SeenLayers,
  protocol: string,
): Promise<number | null> {
  const { scheduler, tcp } = controller.host;
  const stream = await tcp.connect(ip, link.port);
  if (typeof stream === 'string') return mark(seen, 'port', bad('refused', { port }));
  mark(seen, 'port', good('open', { port }));
  const [heardBefore, actedBefore] = [target.memory.heard, target.memory.lastAt];
  let answer: string | undefined;
  const reader = new SlipReader();
  stream.on('data', (chunk: Uint8Array) => {
    if (protocol === 'text') answer ??= Buffer.from(chunk).toString('utf8').trim();
    else
      for (const packet of reader.push(chunk)) {
        const read = readOsc(packet);
        if (read.ok && 'address' in read.packet) answer ??= read.packet.address;
      }
  });
  const sent = addressOf(command, link);
  const start = scheduler.now();
  stream.write(
    protocol === 'text' ? `${sent}\r\n` : writeSlip(writeOsc({ address: sent, args: oscArgs(command, link) })),
  );
  const expects = protocol === 'text' || command?.reply != null;
  await until(scheduler, replyWaitMs, () => answer !== undefined || (!expects && target.memory.heard > heardBefore));
  const ms = rounded(scheduler.now() - start);
  stream.end();
  if (target.memory.heard === heardBefore) return mark(seen, 'service', bad('silent'));
  pair(seen, 'service', good('runs'), 'access', good('let_in'));
  if (link.command === null) return mark(seen, 'message', later('none'));
  if (target.memory.lastAt === actedBefore) return mark(seen, 'message', bad('refused', { sent }));
  mark(seen, 'message', good('acted', { did: faceWords(target) }));
  if (!expects) return mark(seen, 'reply', good('not_expected'));
  if (answer === undefined) return mark(seen, 'reply', bad('missing', { port: link.port }));
  mark(seen, 'reply', good('came', { ms }));
  showReply(controller, answer);
  return ms;
}
