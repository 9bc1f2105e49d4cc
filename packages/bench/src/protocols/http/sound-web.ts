import {
  addressOf,
  bad,
  bodyOf,
  good,
  later,
  mark,
  notAsked,
  pair,
  rounded,
  showReply,
  type SeenLayers,
  type SoundRequest,
  type Talk,
} from '../steps.ts';
import { agentOf, notOpenFor } from './agent.ts';
import { requestWeb, type WebRequest } from './web-client.ts';

/** What the link's entry signs in with; undefined where nothing is keyed in. */
export const loginOf = ({ link, passwords }: SoundRequest): WebRequest['login'] =>
  link.account === null && link.secretId === null
    ? undefined
    : { username: link.account ?? '', password: passwords[link.secretId ?? ''] ?? '' };

/** Of what a 403 says: nobody made an administrator yet, or it was not opened for this kind of client. */
const turnedAway = (fault: unknown): string =>
  typeof fault === 'string' && fault.startsWith(notOpenFor) ? 'not_open_for' : 'first_sign_in';

/** Asks as the controller does, login included; a quiet sounding asks for the first page, and changes nothing. */
export async function exchangeWeb(
  request: SoundRequest,
  { controller, port, command, ip }: Talk,
  seen: SeenLayers,
): Promise<number | null> {
  const { link, quiet } = request;
  const scheduler = controller.host.scheduler;
  const start = scheduler.now();
  const outcome = await requestWeb(controller.host, {
    ip,
    port: link.port,
    ...(quiet
      ? { method: 'GET', path: '/', body: {} }
      : { method: command?.method ?? 'GET', path: addressOf(command, link, 'http'), body: bodyOf(command, link) }),
    login: loginOf(request),
    agent: agentOf(controller),
  });
  const ms = rounded(scheduler.now() - start);
  if (outcome === 'refused' || outcome === 'silent') return mark(seen, 'port', bad(outcome, { port }));
  if (outcome === 'other_protocol') return pair(seen, 'port', good('open', { port }), 'service', bad('silent'));
  pair(seen, 'port', good('open', { port }), 'service', good('runs'));
  if (outcome.status === 401) return mark(seen, 'access', bad('refused'));
  if (outcome.status === 403) return mark(seen, 'access', bad(turnedAway(outcome.body['fault'])));
  mark(seen, 'access', good('let_in'));
  if (quiet) return notAsked(seen, 'message');
  if (link.command === null) return mark(seen, 'message', later('none'));
  if (outcome.status !== 200) return mark(seen, 'message', bad('refused', { sent: addressOf(command, link, 'http') }));
  pair(
    seen,
    'message',
    good('answered', { text: typeof outcome.body['did'] === 'string' ? outcome.body['did'] : '200' }),
    'reply',
    good('came', { ms }),
  );
  showReply(controller, `200 ${addressOf(command, link, 'http')}`);
  return ms;
}
