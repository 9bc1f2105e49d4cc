import { say, type Conversation, type Protocol } from '../protocol.ts';
import { askWeb } from './ask-web.ts';
import { exchangeWeb } from './sound-web.ts';
import { openWeb } from './web-service.ts';

/** Requests and answers with or without a login (RFC 9110, RFC 9112). */
export const http: Protocol = {
  name: { udp: '_http._udp.local', tcp: '_http._tcp.local' },
  open: openWeb,
  sound: exchangeWeb,
  hear: askWeb,
  follow: askWeb,
  decode: { stream: headWords },
  jack: { ports: 1 },
};

/** A first line is told; an answer with what it answers. */
function headWords(bytes: Uint8Array, conversation: Conversation) {
  const head = Buffer.from(bytes.subarray(0, 400)).toString('latin1');
  const line = head.split('\r\n')[0] ?? '';
  if (/^(GET|PUT|POST|DELETE|HEAD|OPTIONS|PATCH) /.test(line)) {
    conversation.asked = line.replace(/ HTTP\/1\.\d$/, '');
    return say('HTTP', conversation.asked);
  }
  const status = /^HTTP\/1\.\d (\d{3})/.exec(line)?.[1];
  if (status === undefined) return undefined;
  const { asked } = conversation;
  return say('HTTP', `${status}${asked === undefined ? '' : ` to ${asked}`}`, Number(status) < 400);
}
