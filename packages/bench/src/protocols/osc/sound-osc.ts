import { immediately, readOsc, writeOsc } from '@deep-patch/codecs';
import type { show } from '@deep-patch/core';
import { dotted } from '../../ether/dotted.ts';
import {
  addressOf,
  bad,
  good,
  later,
  mark,
  markUnseen,
  notAsked,
  oscArgs,
  ownPort,
  pair,
  replyWaitMs,
  rounded,
  showReply,
  until,
  type SeenLayers,
  type SoundRequest,
  type Talk,
} from '../steps.ts';
import { exchangeStream } from '../stream-exchange.ts';
import { framingOf } from './framing.ts';

/** Sends the link's OSC message, listens where the controller listens, and watches what leaves the target. */
async function overDatagrams(
  { link }: SoundRequest,
  { controller, target, type, port, command, ip }: Talk,
  seen: SeenLayers,
): Promise<number | null> {
  const { host } = controller;
  const { scheduler } = host;
  if (answersSeveral(type)) await until(scheduler, lateAnswerMs, () => false);
  const message = {
    address: link.command === null ? '/' : addressOf(command, link, 'osc'),
    args: oscArgs(command, link),
  };
  let refused = false;
  let replied: { readonly at: number; readonly text: string } | undefined;
  const own = link.replyPort ?? ownPort;
  const ear = host.listen(own, ({ bytes }) => {
    const read = readOsc(bytes);
    if (read.ok && 'address' in read.packet) replied ??= { at: scheduler.now(), text: read.packet.address };
  });
  let answeredTo: string | undefined;
  const stopWatching = watchAnswers(target, own, (to) => (answeredTo ??= to));
  const start = scheduler.now();
  await host.sendUdp(ip, { from: own, to: link.port }, writeOsc(message), () => (refused = true));
  const expects = command?.reply != null;
  await until(
    scheduler,
    expects ? replyWaitMs : refusalWait(seen),
    () => refused || (expects && replied !== undefined),
  );
  ear?.();
  stopWatching();
  if (refused) return mark(seen, 'port', bad('refused', { port }));
  if (link.command === null) {
    markUnseen(seen, ['port', 'service', 'access']);
    return mark(seen, 'message', later('none'));
  }
  if (replied) {
    mark(seen, 'port', good('open', { port }));
    pair(seen, 'service', good('runs'), 'access', good('let_in'));
    mark(seen, 'message', good('answered', { text: replied.text }));
    const ms = rounded(replied.at - start);
    mark(seen, 'reply', good('came', { ms }));
    showReply(controller, replied.text);
    return ms;
  }
  if (!expects) {
    markUnseen(seen, ['port', 'service', 'access', 'message']);
    return mark(seen, 'reply', good('not_expected'));
  }
  if (answeredTo === undefined) markUnseen(seen, ['port', 'service', 'access', 'message']);
  else {
    pair(seen, 'port', good('open', { port }), 'service', good('runs'));
    pair(seen, 'access', good('let_in'), 'message', good('answered', { text: `an answer to ${answeredTo}` }));
  }
  return mark(
    seen,
    'reply',
    bad(answeredTo === undefined ? 'missing' : 'elsewhere', { port: own, to: answeredTo ?? '' }),
  );
}

/** So long an answer to somebody else may wait for its next hop, and be taken for the answer to what is sent next. */
const lateAnswerMs = 450;
const answersSeveral = ({ replies }: show.ServiceType): boolean => replies === 'list' || replies === 'subscribers';

const leastRefusalWaitMs = 150;
/** As long as an echo is waited for. */
const mostRefusalWaitMs = 600;

/** A closed port is told of within a round trip, and some; longer than that nothing more comes. */
function refusalWait(seen: SeenLayers): number {
  const trip = seen.get('address')?.facts['ms'];
  return typeof trip === 'number' ? Math.max(leastRefusalWaitMs, trip * 1.5) : mostRefusalWaitMs;
}

/** A tap at the target's socket: where does it send OSC to? */
function watchAnswers({ host }: Talk['target'], own: number, tell: (to: string) => void): () => void {
  return host.watchSent(({ body }) => {
    // on one machine the question leaves there too
    if (body.kind !== 'ip' || body.payload.kind !== 'udp' || body.payload.sourcePort === own) return;
    if (readOsc(body.payload.bytes).ok) tell(`${dotted(body.destination)}:${body.payload.destinationPort}`);
  });
}

/** A bundle without messages asks for nothing and changes nothing; only a closed port answers it. */
async function knockAtPort({ link }: SoundRequest, { controller, port, ip }: Talk, seen: SeenLayers): Promise<null> {
  const { host } = controller;
  let refused = false;
  const nothing = writeOsc({ time: immediately, elements: [] });
  await host.sendUdp(ip, { from: ownPort, to: link.port }, nothing, () => (refused = true));
  await until(host.scheduler, refusalWait(seen), () => refused);
  if (refused) return mark(seen, 'port', bad('refused', { port }));
  return notAsked(seen, 'port');
}

/** The same framed on a stream; the answer comes on the same connection. */
function overStream(request: SoundRequest, talk: Talk, seen: SeenLayers): Promise<number | null> {
  const { link } = request;
  const { reader: makeReader, write } = framingOf(talk.type);
  const reader = makeReader();
  return exchangeStream(request, talk, seen, {
    write: () => write(writeOsc({ address: addressOf(talk.command, link, 'osc'), args: oscArgs(talk.command, link) })),
    read: (chunk) =>
      reader
        .push(chunk)
        .map((packet) => readOsc(packet))
        .flatMap((read) => (read.ok && 'address' in read.packet ? [read.packet.address] : []))[0],
    alwaysAnswers: false,
    isRefusal: () => false,
  });
}

export function soundOsc(request: SoundRequest, talk: Talk, seen: SeenLayers): Promise<number | null> {
  if (talk.type.transport === 'tcp') return overStream(request, talk, seen);
  return request.quiet ? knockAtPort(request, talk, seen) : overDatagrams(request, talk, seen);
}
