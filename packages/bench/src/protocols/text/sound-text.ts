import { addressOf, type SeenLayers, type SoundRequest, type Talk } from '../steps.ts';
import { exchangeStream } from '../stream-exchange.ts';

/** Says a line and waits for the line that answers it. */
export const soundText = (request: SoundRequest, talk: Talk, seen: SeenLayers): Promise<number | null> =>
  exchangeStream(request, talk, seen, {
    write: () => `${addressOf(talk.command, request.link, 'text')}\r\n`,
    read: (chunk) => Buffer.from(chunk).toString('utf8').trim(),
    alwaysAnswers: true,
    isRefusal: (answer) => answer.startsWith('error'),
  });
