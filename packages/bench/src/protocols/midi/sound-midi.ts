import { midiFromWords, midiWords } from '@deep-patch/codecs';
import { MidiSession } from './midi-session.ts';
import { ssrcOf } from './midi-service.ts';
import { newsInWords } from '../news.ts';
import type { Ear } from '../protocol.ts';
import {
  addressOf,
  bad,
  good,
  later,
  mark,
  markUnseen,
  notAsked,
  pair,
  replyWaitMs,
  rounded,
  showReply,
  until,
  type SeenLayers,
  type SoundRequest,
  type Talk,
} from '../steps.ts';

/** Pairs of ports that a controller tries for a session of its own: it may keep one with each of its targets. */
const ownPorts = Array.from({ length: 64 }, (_, at) => 50_004 + 2 * at);

/** A session of the controller's own, at the first pair of ports that is free there. */
function ownSession(
  { host, device }: Talk['controller'],
  { role, port: waitsAt }: SoundRequest['link'],
  key: string,
  tell: (words: string) => void,
) {
  return (role === 'waits' ? [waitsAt] : ownPorts)
    .map((port) => {
      const own = { name: device.name, port, ssrc: ssrcOf(device.id, key) };
      return new MidiSession(host, own, (message) => tell(midiWords(message)));
    })
    .find((session) => session.open());
}

/** Joins the target's session, or lets the target in that opens it; or says why nobody is there. */
async function join(session: MidiSession, { link }: SoundRequest, { target, ip }: Talk) {
  if (link.role === 'opens') return session.invite(ip, link.port);
  const outcome = (await target.openers.get(link.serviceKey)?.()) ?? 'not_opened';
  if (outcome !== 'open') return outcome;
  return session.participants.get(ssrcOf(target.device.id, link.serviceKey)) ?? 'not_opened';
}

/** Takes part in the target's session under a number of its own, and tells every message that comes by itself. */
export async function hearMidi(request: SoundRequest, talk: Talk, { tell }: Ear): Promise<(() => void) | undefined> {
  const { link } = request;
  const session = ownSession(talk.controller, link, `${link.id} heard`, (words) =>
    tell(words, newsInWords(talk.type.commands, words, true)),
  );
  if (!session) return undefined;
  const joined = await join(session, request, talk);
  if (typeof joined !== 'string') return () => session.close();
  session.close();
  return undefined;
}

/** Joins the target's session, sends the link's message and waits for the one that comes back. */
export async function soundMidi(request: SoundRequest, talk: Talk, seen: SeenLayers): Promise<number | null> {
  const { link, quiet } = request;
  const { controller, port, command } = talk;
  const { scheduler } = controller.host;
  let answer: string | undefined;
  const session = ownSession(controller, link, link.id, (words) => (answer ??= words));
  if (!session)
    return mark(
      seen,
      'port',
      bad('refused', { port: `${port} (${link.role === 'waits' ? link.port : ownPorts[0]} is in use here)` }),
    );
  try {
    const joined = await join(session, request, talk);
    if (joined === 'refused' || joined === 'not_opened') return mark(seen, 'port', bad(joined, { port }));
    if (joined === 'silent' && link.role === 'waits') return mark(seen, 'port', bad(joined, { port }));
    if (joined === 'silent') {
      markUnseen(seen, ['port']);
      return mark(seen, 'service', bad('silent'));
    }
    mark(seen, 'port', good('open', { port }));
    pair(seen, 'service', good('runs'), 'access', good('let_in'));
    if (quiet) return notAsked(seen, 'message');
    if (link.command === null) return mark(seen, 'message', later('none'));
    const sent = addressOf(command, link, 'midi');
    const message = midiFromWords(sent);
    if (!message) return mark(seen, 'message', bad('refused', { sent }));
    const start = scheduler.now();
    session.send([message], joined);
    const expects = command?.reply != null;
    await until(scheduler, replyWaitMs, () => answer !== undefined);
    const ms = rounded(scheduler.now() - start);
    if (answer === undefined) {
      markUnseen(seen, ['message']);
      return mark(seen, 'reply', expects ? bad('missing', { port: link.port + 1 }) : good('not_expected'));
    }
    pair(seen, 'message', good('answered', { text: answer }), 'reply', good('came', { ms }));
    showReply(controller, answer);
    return ms;
  } finally {
    session.close();
  }
}
