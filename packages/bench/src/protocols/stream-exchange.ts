import {
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
} from './steps.ts';
import { streamTo } from './stream-to.ts';

/** How something is said over a stream, and how an answer is read. */
export interface StreamManner {
  readonly write: () => string | Uint8Array;
  /** The first answer in what came so far, in words. */
  readonly read: (chunk: Uint8Array) => string | undefined;
  /** Whether everything that is said is answered, even what is refused. */
  readonly alwaysAnswers: boolean;
  readonly isRefusal: (answer: string) => boolean;
}

/** Connects to the target, says the link's command and waits for the answer on the same connection. */
export async function exchangeStream(
  request: SoundRequest,
  talk: Talk,
  seen: SeenLayers,
  { write, read, alwaysAnswers, isRefusal }: StreamManner,
): Promise<number | null> {
  const { link, quiet } = request;
  const { controller, port, command } = talk;
  const { scheduler } = controller.host;
  const stream = await streamTo(request, talk);
  if (typeof stream === 'string') return mark(seen, 'port', bad(stream, { port }));
  mark(seen, 'port', good('open', { port }));
  if (quiet) {
    stream.end();
    return notAsked(seen, 'service');
  }
  let answer: string | undefined;
  stream.on('data', (chunk: Uint8Array) => (answer ??= read(chunk)));
  const start = scheduler.now();
  const sent = write();
  stream.write(sent);
  await until(scheduler, replyWaitMs, () => answer !== undefined);
  const ms = rounded(scheduler.now() - start);
  stream.end();
  if (link.command === null) {
    if (answer === undefined) markUnseen(seen, ['service', 'access']);
    else pair(seen, 'service', good('runs'), 'access', good('let_in'));
    return mark(seen, 'message', later('none'));
  }
  if (answer === undefined) {
    if (alwaysAnswers) return mark(seen, 'service', bad('silent'));
    markUnseen(seen, ['service', 'access', 'message']);
    const expects = command?.reply != null;
    return mark(seen, 'reply', expects ? bad('missing', { port: link.port }) : good('not_expected'));
  }
  pair(seen, 'service', good('runs'), 'access', good('let_in'));
  if (isRefusal(answer)) return mark(seen, 'message', bad('refused', { sent: String(sent).trim() }));
  pair(seen, 'message', good('answered', { text: answer }), 'reply', good('came', { ms }));
  showReply(controller, answer);
  return ms;
}
