import type { cues as cueRoom, show as core } from '@deep-patch/core';
import { readOsc } from '@deep-patch/codecs';
import { expect, test } from 'vitest';
import { partsOf } from './message-parts.ts';

const argument = (name: string, type: 'i' | 'f' | 's' | 'T') => ({ name, type, example: 1 });
function aimed(
  protocol: core.ServiceType['protocol'],
  command: Pick<core.Command, 'address' | 'args'> & Partial<core.Command>,
  args: cueRoom.Aimed['args'],
): cueRoom.Aimed {
  const whole = { key: 'it', label: 'It', sets: [], reply: null, ...command };
  const service = { protocol, commands: [whole] } as unknown as core.ServiceType;
  return { target: undefined, service, command: whole, args };
}
const hex = (bytes: Uint8Array) => Array.from(bytes, (byte) => byte.toString(16).padStart(2, '0')).join('');
const texts = (parts: ReturnType<typeof partsOf>) =>
  parts.map(({ name, bytes }) => [name, new TextDecoder().decode(bytes)]);

test('MIDI byte by byte, with what each is', () => {
  const fader = {
    address: 'control-change {channel} 7 {value}',
    args: [argument('channel', 'i'), argument('value', 'i')],
  };
  expect(partsOf(aimed('midi', fader, [3, 101])).map(({ name, bytes }) => [name, hex(bytes)])).toEqual([
    ['control change, channel 3', 'b2'],
    ['controller', '07'],
    ['value', '65'],
  ]);
  const bend = { address: 'pitch-bend 1 {value}', args: [argument('value', 'i')] };
  // 8192 is the middle: seven bits in each byte, the lower ones first
  expect(partsOf(aimed('midi', bend, [1])).map(({ bytes }) => hex(bytes))).toEqual(['e0', '01', '40']);
  expect(partsOf(aimed('midi', fader, [3, 400]))).toEqual([]);
});

test('a line of text to its end, and a request with its body', () => {
  const record = { address: 'record {name}', args: [argument('name', 's')] };
  expect(texts(partsOf(aimed('text', record, ['two words'])))).toEqual([
    ['line', 'record two%20words'],
    ['its end', '\r\n'],
  ]);
  const gain = {
    method: 'PUT' as const,
    address: '/channels/{channel}/gain',
    args: [argument('channel', 'i'), argument('level', 'f')],
  };
  expect(texts(partsOf(aimed('http', gain, [2, -12.5])))).toEqual([
    ['request', 'PUT /channels/2/gain HTTP/1.1\r\n'],
    ['headers', 'content-type: application/json\r\ncontent-length: 15\r\n\r\n'],
    ['values', '{"level":-12.5}'],
  ]);
});

test('OSC: the parts together are the message', () => {
  const say = {
    address: '/say/{channel}',
    args: [argument('channel', 'i'), argument('text', 's'), argument('level', 'f')],
  };
  const parts = partsOf(aimed('osc', say, [4, 'quay', 0.5]));
  expect(parts.map(({ name, bytes }) => [name, bytes.length])).toEqual([
    ['address', 8],
    ['types', 4],
    ['text', 8],
    ['level', 4],
  ]);
  expect(readOsc(Uint8Array.from(parts.flatMap(({ bytes }) => [...bytes])))).toMatchObject({
    packet: {
      address: '/say/4',
      args: [
        { type: 's', value: 'quay' },
        { type: 'f', value: 0.5 },
      ],
    },
  });
});
