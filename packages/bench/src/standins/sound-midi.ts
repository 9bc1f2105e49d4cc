import { midiFromWords, midiWords } from '@deep-patch/codecs';
import { MidiSession } from './midi-session.ts';
import { ssrcOf } from './midi-service.ts';
import {
  addressOf,
  bad,
  faceWords,
  good,
  later,
  mark,
  pair,
  replyWaitMs,
  rounded,
  showReply,
  until,
  type SeenLayers,
  type SoundRequest,
  type Talk,
} from './sound-steps.ts';

const firstOwnPort = 50_004;

/** Joins the target's session, sends the link's message and waits for the one that comes back. */
export async function soundMidi(
  { link }: SoundRequest,
  { controller, target, port, command, ip }: Talk,
  seen: SeenLayers,
): Promise<number | null> {
  const { host, device } = controller;
  const { scheduler } = host;
  let answer: string | undefined;
  const session = new MidiSession(
    host,
    { name: device.name, port: firstOwnPort, ssrc: ssrcOf(device.id, link.id) },
    (message) => (answer ??= midiWords(message)),
  );
  if (!session.open()) return mark(seen, 'port', bad('refused', { port: `${port} (${firstOwnPort} is in use here)` }));
  try {
    const joined = await session.invite(ip, link.port);
    if (joined === 'refused' || joined === 'silent') return mark(seen, 'port', bad('refused', { port }));
    mark(seen, 'port', good('open', { port }));
    pair(seen, 'service', good('runs'), 'access', good('let_in'));
    if (link.command === null) return mark(seen, 'message', later('none'));
    const sent = addressOf(command, link);
    const message = midiFromWords(sent);
    if (!message) return mark(seen, 'message', bad('refused', { sent }));
    const [heardBefore, actedBefore] = [target.memory.heard, target.memory.lastAt];
    const start = scheduler.now();
    session.send([message], joined);
    const expects = command?.reply != null;
    await until(scheduler, replyWaitMs, () => answer !== undefined || (!expects && target.memory.heard > heardBefore));
    const ms = rounded(scheduler.now() - start);
    if (target.memory.lastAt === actedBefore) return mark(seen, 'message', bad('refused', { sent }));
    mark(seen, 'message', good('acted', { did: faceWords(target) }));
    if (!expects) return mark(seen, 'reply', good('not_expected'));
    if (answer === undefined) return mark(seen, 'reply', bad('missing', { port: link.port + 1 }));
    mark(seen, 'reply', good('came', { ms }));
    showReply(controller, answer);
    return ms;
  } finally {
    session.close();
  }
}
