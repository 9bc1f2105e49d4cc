import { midiWords, readRtpMidi, readWake, type Udp } from '@deep-patch/codecs';
import { say, type Protocol, type Words } from '../protocol.ts';
import { openMidi } from './midi-service.ts';
import { hearMidi, soundMidi } from './sound-midi.ts';

/** Sessions of network MIDI: control on one port, data on the next (RFC 6295 with the usual session commands). */
export const midi: Protocol = {
  name: { udp: '_apple-midi._udp.local', tcp: '_apple-midi._tcp.local' },
  open: openMidi,
  sound: soundMidi,
  hear: hearMidi,
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

function midiLine(bytes: Uint8Array): Words {
  const read = readRtpMidi(bytes);
  if (!read.ok) return say('MIDI', `malformed at byte ${read.at}: ${read.fault}`, false);
  const { packet } = read;
  if (packet.kind === 'midi')
    return say('MIDI', packet.messages.map(({ bytes: message }) => midiWords(message)).join('; ') || 'nothing new');
  const name = 'name' in packet && packet.name ? ` “${packet.name}”` : '';
  return say('MIDI', `session: ${packet.kind}${name}`, packet.kind !== 'refuse');
}
