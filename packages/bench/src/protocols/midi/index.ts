import {
  beginsWithQuarterFrame,
  midiControl,
  midiWords,
  readRtpMidi,
  readWake,
  type MidiControl,
  type MtcReader,
  type Udp,
} from '@deep-patch/codecs';
import { type Protocol, type Words } from '../protocol.ts';
import { openMidi } from './midi-service.ts';
import { hearMidi, soundMidi } from './sound-midi.ts';

/** Sessions of network MIDI: control on one port, data on the next (RFC 6295 with the usual session commands). */
export const midi: Protocol = {
  name: { udp: '_apple-midi._udp.local', tcp: '_apple-midi._tcp.local' },
  open: openMidi,
  sound: soundMidi,
  hear: hearMidi,
  follow: hearMidi,
  decode: { datagram: (payload) => (isMidi(payload) ? midiLine(payload.bytes) : undefined) },
  jack: { ports: 2 },
};

const sessionMark = 0xff;
const midiPayload = 97;

/** A session command begins with two marks, a packet with version 2 and the payload type that sessions agree on. */
function isMidi({ bytes }: Udp): boolean {
  const [first = 0, second = 0] = bytes;
  if (first === sessionMark && second === sessionMark) return readWake(bytes) === undefined;
  return first >> 6 === 2 && (second & 127) === midiPayload;
}

/** Read only when somebody looks at the line: time code alone brings a hundred a second. */
function midiLine(bytes: Uint8Array): Words {
  let known: ReturnType<typeof midiWordsOf> | undefined;
  const read = () => (known ??= midiWordsOf(bytes));
  return {
    protocol: 'MIDI',
    text: () => read().text,
    running: beginsWithQuarterFrame(bytes)
      ? { as: 'time code', follow: (reader, before) => digitsOf(bytes, reader) ?? before }
      : undefined,
    get ok() {
      return read().ok;
    },
    get moved() {
      return movedIn(bytes);
    },
  };
}

/** Controls that a packet of the stream moves; time code, of which a hundred come a second, is not looked into. */
function movedIn(bytes: Uint8Array): readonly MidiControl[] {
  if (bytes[0] === sessionMark || beginsWithQuarterFrame(bytes)) return [];
  const read = readRtpMidi(bytes);
  if (!read.ok || read.packet.kind !== 'midi') return [];
  return read.packet.messages.flatMap((message) => midiControl(message.bytes) ?? []);
}

const rates = ['24', '25', '29.97 drop', '30'];
const twoDigits = (value: number): string => String(value).padStart(2, '0');

/** The time that is whole with this packet; undefined while its quarter frames are under way. */
function digitsOf(bytes: Uint8Array, reader: MtcReader): string | undefined {
  const read = readRtpMidi(bytes);
  const messages = read.ok && read.packet.kind === 'midi' ? read.packet.messages : [];
  const time = messages.map((message) => reader.push(message.bytes)).findLast((each) => each !== undefined);
  if (!time) return undefined;
  const digits = [time.hours, time.minutes, time.seconds, time.frames].map(twoDigits).join(':');
  return `${digits} time code, ${rates[time.rate] ?? ''} frames`;
}

function midiWordsOf(bytes: Uint8Array): { text: string; ok: boolean } {
  const read = readRtpMidi(bytes);
  if (!read.ok) return { text: `malformed at byte ${read.at}: ${read.fault}`, ok: false };
  const { packet } = read;
  if (packet.kind === 'midi') {
    const messages = packet.messages.map(({ bytes: message }) => midiWords(message));
    return { text: messages.join('; ') || 'nothing new', ok: true };
  }
  const name = 'name' in packet && packet.name ? ` “${packet.name}”` : '';
  return { text: `session: ${packet.kind}${name}`, ok: packet.kind !== 'refuse' };
}
