import { SizedReader, tagOfTime, timeOfTag, writeOsc, writeSized } from '@deep-patch/codecs';
import type { show } from '@deep-patch/core';
import fc from 'fast-check';
import { describe, expect, test } from 'vitest';
import { oscArgs } from '../steps.ts';
import { commandsFor } from './patterns.ts';
import { commandReply } from './reply.ts';

const command = (key: string, address: string, args: show.Command['args'] = []): show.Command => ({
  key,
  label: key,
  address,
  args,
  sets: [],
  reply: null,
});
const number = (name: string, min: number, max: number) => ({ name, type: 'i' as const, min, max, example: min });

describe('dispatching', () => {
  const commands = [
    command('start', '/desk/cue/{cue}/start', [number('cue', 1, 12)]),
    command('stop', '/desk/cue/{cue}/stop', [number('cue', 1, 12)]),
    command('master', '/desk/master', [{ name: 'level', type: 'f', example: 1 }]),
    command('mute', '/desk/mute'),
    command('name', '/desk/name/{text}', [{ name: 'text', type: 's', example: 'x' }]),
    command('minus', '/desk/a-b'),
  ];
  const found = (address: string) =>
    commandsFor(commands, address).map(({ command: { key }, values }) => [key, ...values.values()].join(' '));

  // the rules of OSC 1.0, "OSC Message Dispatching and Pattern Matching", one by one
  test.each([
    ['/desk/cue/3/start', ['start 3']],
    ['/desk/cue/{3,11}/start', ['start 3', 'start 11']],
    ['/desk/cue/?/stop', [1, 2, 3, 4, 5, 6, 7, 8, 9].map((n) => `stop ${n}`)],
    ['/desk/cue/1?/s*p', ['stop 10', 'stop 11', 'stop 12']],
    ['/desk/cue/[2-4]/start', ['start 2', 'start 3', 'start 4']],
    ['/desk/cue/[!1-8]/start', ['start 9']],
    ['/desk/cue/[5-3]/start', []],
    ['/desk/cue/[]/start', []],
    ['/desk/cue/1[!]/start', ['start 10', 'start 11', 'start 12']],
    ['/desk/m*', ['master', 'mute']],
    ['/desk/m[au]*', ['master', 'mute']],
    ['/desk/{mute,name}', ['mute']],
    ['/desk/a[-+]b', ['minus']],
    ['/desk/a[+-]b', ['minus']],
    ['/*/mute', ['mute']],
    ['/desk/*/*/start', Array.from({ length: 12 }, (_, at) => `start ${at + 1}`)],
    ['/*', []],
    ['/desk/m.*', []],
    ['/desk/name/*', []],
    ['/desk/{mute', []],
    ['/desk/mute]', []],
    ['/desk/mu te', []],
    ['/desk/#mute', []],
    ['/desk/cue/13/start', []],
    ['/desk/cue/0x3/start', []],
    ['/desk/cue/1e0/start', []],
    ['/desk/cue/3.0/start', []],
  ])('%s', (address, keys) => expect(found(address)).toEqual(keys));

  test('an address without a pattern is found by its pattern of single letters, whatever the letters are', () => {
    const runs = fc.check(
      fc.property(fc.constantFrom('/desk/master', '/desk/mute', '/desk/cue/7/stop', '/desk/a-b'), (address) => {
        const spelt = address.replace(/[^/]/g, (letter) => `[${letter}]`);
        const either = address.replace(/[^/]+/g, (part) => `{x,${part}}`);
        expect([found(spelt), found(either)]).toEqual([found(address), found(address)]);
      }),
      { numRuns: 100 },
    );
    expect([runs.failed, runs.numRuns]).toEqual([false, 100]);
  });
});

describe('replies', () => {
  const say = (type: 'i' | 'f' | 's' | 'T', value: string, args = ['{x}']) =>
    commandReply(
      { ...command('c', '/c', [{ name: 'x', type, example: 1 }]), reply: { address: '/done/{x}', args } },
      new Map([['x', value]]),
    )?.args;

  test('an argument goes out with the type that its command declares, not with the one that it looks like', () => {
    expect([say('s', '12'), say('f', '3'), say('i', '3'), say('T', 'true'), say('T', 'false')]).toEqual([
      [{ type: 's', value: '12' }],
      [{ type: 'f', value: 3 }],
      [{ type: 'i', value: 3 }],
      [{ type: 'T' }],
      [{ type: 'F' }],
    ]);
    expect(say('i', '3', ['cue {x}', '5', '0.5', 'ready', 'T'])).toEqual([
      { type: 's', value: 'cue 3' },
      { type: 'i', value: 5 },
      { type: 'f', value: 0.5 },
      { type: 's', value: 'ready' },
      { type: 'T' },
    ]);
  });
});

test('of several arguments each has its own type', () => {
  const two = command('c', '/c', [
    { name: 'x', type: 's', example: 'a' },
    { name: 'y', type: 'f', example: 1 },
  ]);
  const reply = { address: '/done', args: ['{y}', '{x}', '{z}'] };
  const values = new Map([
    ['x', '7'],
    ['y', '2'],
  ]);
  expect(commandReply({ ...two, reply }, values)?.args).toEqual([
    { type: 'f', value: 2 },
    { type: 's', value: '7' },
    { type: 's', value: '{z}' },
  ]);
});

test.each([
  [-2_147_483_648, 'i'],
  [2_147_483_647, 'i'],
  [-2_147_483_649, 'd'],
  [2_147_483_648, 'd'],
  [0.5, 'f'],
] as const)('a controller sends %d with the tag %s', (value, type) => {
  const own = command('c', '/c', [{ name: 'x', type: type === 'f' ? 'f' : 'i', example: 1 }]);
  const link = { args: [value], command: 'c' } as unknown as show.Link;
  expect(oscArgs(own, link)).toEqual([{ type, value }]);
});

describe('on a stream', () => {
  test('packets behind their sizes come out whole, however they are cut; a size that cannot be ends the reading', () => {
    const packets = [1, 2, 3].map((n) =>
      writeOsc({ address: `/n/${n}`, args: [{ type: 's', value: 'x'.repeat(n * 7) }] }),
    );
    const bytes = Uint8Array.from(packets.flatMap((packet) => [...writeSized(packet)]));
    const runs = fc.check(
      fc.property(fc.array(fc.integer({ min: 1, max: 20 }), { minLength: 1 }), (cuts) => {
        const reader = new SizedReader();
        const out: Uint8Array[] = [];
        for (let [at, cut] = [0, 0]; at < bytes.length; cut += 1) {
          const size = cuts[cut % cuts.length] ?? 1;
          out.push(...reader.push(bytes.subarray(at, at + size)));
          at += size;
        }
        expect(out).toEqual(packets);
      }),
      { numRuns: 60 },
    );
    expect([runs.failed, runs.numRuns]).toEqual([false, 60]);
    const reader = new SizedReader();
    expect([reader.push(Uint8Array.of(0xff, 0, 0, 0, 1)), reader.isBroken, reader.push(bytes)]).toEqual([[], true, []]);
  });
});

describe('time tags', () => {
  test('are seconds since 1900 with a fraction (RFC 5905); 1 says at once', () => {
    // 1 January 1970 and half a second
    expect(tagOfTime(500)).toBe((2_208_988_800n << 32n) | 0x8000_0000n);
    expect(timeOfTag(1n)).toBeUndefined();
    const now = 1_795_708_800_123;
    expect(Math.abs((timeOfTag(tagOfTime(now)) ?? 0) - now)).toBeLessThan(0.001);
  });
});

describe('writing', () => {
  test.each([
    ['a text with a zero', () => writeOsc({ address: '/a', args: [{ type: 's', value: 'a\0b' }] })],
    ['an address with a zero', () => writeOsc({ address: '/a\0', args: [] })],
    ['a whole number beyond 32 bits', () => writeOsc({ address: '/a', args: [{ type: 'i', value: 2 ** 31 }] })],
    ['a fraction as a whole number', () => writeOsc({ address: '/a', args: [{ type: 'i', value: 0.5 }] })],
    ['a float beyond 32 bits', () => writeOsc({ address: '/a', args: [{ type: 'f', value: 1e39 }] })],
    ['a number beyond 64 bits', () => writeOsc({ address: '/a', args: [{ type: 'h', value: 1n << 63n }] })],
    ['a negative time', () => writeOsc({ time: -1n, elements: [] })],
    ['two characters as one', () => writeOsc({ address: '/a', args: [{ type: 'c', value: 'ab' }] })],
  ])('refuses %s', (_what, write) => expect(write).toThrow(RangeError));
});
