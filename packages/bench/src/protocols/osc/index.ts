import { oscWords, SlipReader, type Udp } from '@deep-patch/codecs';
import { say, type Protocol, type Words } from '../protocol.ts';
import { hearOsc } from './hear-osc.ts';
import { openOsc } from './osc-service.ts';
import { readOnce } from './read-once.ts';
import { stayTold } from './stay-told.ts';
import { soundOsc } from './sound-osc.ts';

/** Open Sound Control 1.0, over datagrams or framed on a stream. */
export const osc: Protocol = {
  name: { udp: '_osc._udp.local', tcp: '_osc._tcp.local' },
  open: openOsc,
  sound: soundOsc,
  hear: hearOsc,
  follow: stayTold,
  decode: {
    datagram: (payload) => (isOsc(payload) ? oscLine(payload.bytes) : undefined),
    stream: (bytes) => (bytes[0] === slipEnd ? slipWords(bytes) : undefined),
  },
  jack: { ports: 1, weigh: messagesIn },
};

const slipEnd = 0xc0;
const [stroke, hash] = [0x2f, 0x23];
const isOsc = ({ bytes: [first] }: Udp): boolean => first === stroke || first === hash;

function oscLine(bytes: Uint8Array): Words {
  const read = readOnce(bytes);
  if (!read.ok) return say('OSC', `malformed at byte ${read.at}: ${read.fault}`, false);
  const { packet } = read;
  return { protocol: 'OSC', text: () => oscWords(packet), ok: true, osc: packet };
}

function slipWords(bytes: Uint8Array): Words {
  const [packet] = new SlipReader().push(bytes);
  return packet ? oscLine(packet) : say('TCP', `${bytes.length} bytes`);
}

const bundleHead = 16;

/** Messages in a packet, by the sizes of its elements (OSC 1.0): a bundle may hold a thousand. */
function messagesIn(bytes: Uint8Array, start: number, end: number): number {
  if (bytes[start] !== hash) return 1;
  const view = new DataView(bytes.buffer, bytes.byteOffset, bytes.byteLength);
  let count = 0;
  for (let at = start + bundleHead; at + 4 <= end;) {
    const size = view.getInt32(at);
    if (size <= 0 || at + 4 + size > end) break;
    count += messagesIn(bytes, at + 4, at + 4 + size);
    at += 4 + size;
  }
  return Math.max(1, count);
}
