import { say, type Hearing, type Protocol } from '../protocol.ts';
import { newsInWords } from '../news.ts';
import { hearStream } from '../stream-ear.ts';
import { soundText } from './sound-text.ts';
import { openText } from './text-service.ts';

const longestHeld = 16_384;

/** Every line that comes on a connection that is kept. */
const hearText: Hearing = (request, talk, ear) => {
  let held = '';
  const take = (chunk: Uint8Array) => {
    const lines = (held + Buffer.from(chunk).toString('utf8')).split(/\r?\n/);
    held = (lines.pop() ?? '').slice(0, longestHeld);
    for (const line of lines) if (line !== '') ear.tell(line, newsInWords(talk.type.commands, line, false));
  };
  return hearStream(request, talk, take, ear);
};

/** Lines of words over a stream, as many units take them on a port of their own. */
export const text: Protocol = {
  name: { udp: '_telnet._udp.local', tcp: '_telnet._tcp.local' },
  open: openText,
  sound: soundText,
  hear: hearText,
  follow: hearText,
  decode: { stream: (bytes, { asked }) => (asked === undefined ? lineWords(bytes) : undefined) },
  jack: { ports: 1 },
};

function lineWords(bytes: Uint8Array) {
  const line = Buffer.from(bytes.subarray(0, 400)).toString('latin1').split('\r\n')[0] ?? '';
  return /^[\x20-\x7e]+$/.test(line) ? say('text', line) : undefined;
}
