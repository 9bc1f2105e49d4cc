import { midiFromWords, writeOsc } from '@deep-patch/codecs';
import { cues as cueRoom } from '@deep-patch/core';

/** A stretch of a message's bytes, and what it stands for. */
export interface MessagePart {
  readonly name: string;
  readonly bytes: Uint8Array;
  /** It is read as text, not byte by byte. */
  readonly isText: boolean;
}

/** The bytes of a message in the order in which they travel; empty where it cannot be written. */
export function partsOf(aimed: cueRoom.Aimed): MessagePart[] {
  const { service } = aimed;
  const line = cueRoom.lineOf(aimed);
  if (service?.protocol === 'osc') return oscParts(aimed);
  if (line === undefined) return [];
  if (service?.protocol === 'midi') return midiParts(line);
  if (service?.protocol === 'text') return [textPart('line', line), textPart('its end', '\r\n')];
  return requestParts(aimed, line);
}

const encoder = new TextEncoder();
const textPart = (name: string, text: string): MessagePart => ({ name, bytes: encoder.encode(text), isText: true });
const bytesPart = (name: string, bytes: Uint8Array): MessagePart => ({ name, bytes, isText: false });

/** Everything is padded with zeros to four bytes, texts by one at least (OSC 1.0). */
function oscParts(aimed: cueRoom.Aimed): MessagePart[] {
  const osc = cueRoom.oscOf(aimed);
  if (!osc) return [];
  const whole = writeOsc({ address: osc.address, args: [...osc.args] });
  const padded = (text: string) => (Math.floor(encoder.encode(text).length / 4) + 1) * 4;
  const names = (aimed.command ? cueRoom.placesOf(aimed.command) : []).flatMap(({ argument, inAddress }) =>
    inAddress ? [] : [argument.name],
  );
  const lengths: [string, number][] = [
    ['address', padded(osc.address)],
    ['types', padded(`,${osc.args.map(({ type }) => type).join('')}`)],
    ...osc.args.flatMap((arg, at): [string, number][] => {
      const name = names[at] ?? `value ${at + 1}`;
      if (arg.type === 'i' || arg.type === 'f') return [[name, 4]];
      return arg.type === 's' ? [[name, padded(arg.value)]] : [];
    }),
  ];
  let from = 0;
  return lengths.map(([name, length]) => bytesPart(name, whole.slice(from, (from += length))));
}

const seconds: Readonly<Record<string, string>> = {
  'control-change': 'controller',
  'program-change': 'program',
  'channel-pressure': 'pressure',
  'pitch-bend': 'bend, fine',
};

/** The status names what is done and the channel, then one or two figures follow (MIDI 1.0). */
function midiParts(line: string): MessagePart[] {
  const message = midiFromWords(line);
  if (!message) return [];
  const [word = '', channel = ''] = line.split(' ');
  const names = [
    `${word.replaceAll('-', ' ')}, channel ${channel}`,
    seconds[word] ?? 'note',
    word === 'pitch-bend' ? 'bend, coarse' : 'value',
  ];
  return message.map((byte, at) => bytesPart(names[at] ?? '', Uint8Array.of(byte)));
}

/** A request (RFC 9112 section 3); host and login are of the link, and are put in by whoever sends it. */
function requestParts(aimed: cueRoom.Aimed, path: string): MessagePart[] {
  const body = JSON.stringify(cueRoom.bodyOf(aimed));
  return [
    textPart('request', `${aimed.command?.method ?? 'GET'} ${path} HTTP/1.1\r\n`),
    textPart('headers', `content-type: application/json\r\ncontent-length: ${encoder.encode(body).length}\r\n\r\n`),
    textPart('values', body),
  ];
}
