import fc from 'fast-check';
import { toBuffer, fromBuffer } from 'osc-min';
import { describe, expect, test } from 'vitest';
import { immediately, readOsc, writeOsc, type OscArg, type OscMessage, type OscPacket } from './osc.ts';
import { oscWords } from './osc-words.ts';

const hex = (bytes: Uint8Array): string => Array.from(bytes, (byte) => byte.toString(16).padStart(2, '0')).join('');
const bytesOf = (text: string): Uint8Array =>
  Uint8Array.from(text.replace(/\s/g, '').match(/../g) ?? [], (pair) => parseInt(pair, 16));

describe('vectors of the OSC 1.0 specification', () => {
  const examples: [string, OscMessage, string][] = [
    [
      'one float',
      { address: '/oscillator/4/frequency', args: [{ type: 'f', value: 440 }] },
      '2f6f7363 696c6c61 746f722f 342f6672 65717565 6e637900 2c660000 43dc0000',
    ],
    [
      'five arguments',
      {
        address: '/foo',
        args: [
          { type: 'i', value: 1000 },
          { type: 'i', value: -1 },
          { type: 's', value: 'hello' },
          { type: 'f', value: 1.234 },
          { type: 'f', value: 5.678 },
        ],
      },
      '2f666f6f 00000000 2c696973 66660000 000003e8 ffffffff 68656c6c 6f000000 3f9df3b6 40b5b22d',
    ],
  ];

  test.each(examples)('%s, both ways', (_what, message, bytes) => {
    expect(hex(writeOsc(message))).toBe(bytes.replace(/\s/g, ''));
    const read = readOsc(bytesOf(bytes));
    expect(read.ok && hex(writeOsc(read.packet))).toBe(bytes.replace(/\s/g, ''));
    expect(read.ok && 'address' in read.packet && read.packet.address).toBe(message.address);
  });

  test('strings "osc" and "data" are padded to four and eight bytes', () => {
    expect(
      hex(
        writeOsc({
          address: '/a',
          args: [
            { type: 's', value: 'osc' },
            { type: 's', value: 'data' },
          ],
        }),
      ).slice(16),
    ).toBe('6f736300' + '6461746100000000');
  });

  test('a bundle at once with one message', () => {
    const bundle: OscPacket = { time: immediately, elements: [{ address: '/a', args: [] }] };
    expect(hex(writeOsc(bundle))).toBe('2362756e646c6500' + '0000000000000001' + '00000008' + '2f610000' + '2c000000');
    expect(readOsc(writeOsc(bundle))).toEqual({ ok: true, packet: bundle });
  });
});

const text = fc.stringMatching(/^[ -~äöüéß]{0,12}$/);
const bytes = (size: number) => fc.uint8Array({ minLength: size, maxLength: size });
const flat: fc.Arbitrary<OscArg> = fc.oneof(
  fc.record({ type: fc.constant('i' as const), value: fc.integer() }),
  fc.record({ type: fc.constant('f' as const), value: fc.float({ noNaN: true }) }),
  fc.record({ type: fc.constant('d' as const), value: fc.double({ noNaN: true }) }),
  fc.record({ type: fc.constantFrom('s' as const, 'S' as const), value: text }),
  fc.record({ type: fc.constant('c' as const), value: fc.constantFrom('a', 'é', '€') }),
  fc.record({ type: fc.constant('b' as const), value: fc.uint8Array({ maxLength: 9 }) }),
  fc.record({ type: fc.constantFrom('r' as const, 'm' as const), value: bytes(4) }),
  fc.record({ type: fc.constant('h' as const), value: fc.bigInt({ min: -(2n ** 63n), max: 2n ** 63n - 1n }) }),
  fc.record({ type: fc.constant('t' as const), value: fc.bigInt({ min: 0n, max: 2n ** 64n - 1n }) }),
  fc.constantFrom<OscArg>({ type: 'T' }, { type: 'F' }, { type: 'N' }, { type: 'I' }),
);
const arg: fc.Arbitrary<OscArg> = fc.oneof(
  flat,
  fc.array(flat, { maxLength: 3 }).map((value): OscArg => ({ type: '[', value })),
);
const message: fc.Arbitrary<OscMessage> = fc.record({
  address: text.map((path) => `/${path}`),
  args: fc.array(arg, { maxLength: 6 }),
});
const packet: fc.Arbitrary<OscPacket> = fc.oneof(
  message,
  fc.record({ time: fc.bigInt({ min: 0n, max: 2n ** 64n - 1n }), elements: fc.array(message, { maxLength: 3 }) }),
);

describe('any packet', () => {
  test('comes back as it went, in whole words of four bytes, and can be read by people', () => {
    fc.assert(
      fc.property(packet, (sent) => {
        const written = writeOsc(sent);
        expect(written.length % 4).toBe(0);
        expect(readOsc(written)).toEqual({ ok: true, packet: sent });
        expect(oscWords(sent)).not.toMatch(/undefined/);
      }),
      { numRuns: 500 },
    );
  });

  test('an independent library writes the same bytes and reads ours', () => {
    const theirs = { i: 'integer', f: 'float', s: 'string' } as const;
    const plain = fc.array(
      fc.oneof(
        fc.record({ type: fc.constant('i' as const), value: fc.integer() }),
        fc.record({ type: fc.constant('f' as const), value: fc.float({ noNaN: true, noDefaultInfinity: true }) }),
        fc.record({ type: fc.constant('s' as const), value: fc.stringMatching(/^[ -~]{0,9}$/) }),
      ),
      { maxLength: 5 },
    );
    fc.assert(
      fc.property(plain, (args) => {
        const ours = writeOsc({ address: '/x/y', args });
        const view = toBuffer({
          oscType: 'message',
          address: '/x/y',
          args: args.map(({ type, value }) => ({ type: theirs[type], value })),
        } as never);
        expect(hex(new Uint8Array(view.buffer, view.byteOffset, view.byteLength))).toBe(hex(ours));
        expect(fromBuffer(ours as never)).toMatchObject({
          address: '/x/y',
          args: args.map(({ type }) => ({ type: theirs[type] })),
        });
      }),
    );
  });

  test('broken bytes are explained, never thrown and never read from outside', () => {
    const mutated = fc.tuple(packet, fc.nat(200), fc.nat(255), fc.nat(40)).map(([sent, at, value, cut]) => {
      const broken = writeOsc(sent);
      if (broken.length > 0) broken[at % broken.length] = value;
      // a window into a larger buffer: what lies around it must not leak in
      const around = new Uint8Array(broken.length + 16).fill(0x41);
      around.set(broken, 8);
      return around.subarray(8, 8 + Math.max(0, broken.length - cut));
    });
    fc.assert(
      fc.property(fc.oneof(mutated, fc.uint8Array({ maxLength: 60 })), (input) => {
        const read = readOsc(input);
        if (read.ok) expect(hex(writeOsc(read.packet)).length).toBeLessThanOrEqual(input.length * 2 + 8);
        else expect(read.at).toBeLessThanOrEqual(input.length);
      }),
      { numRuns: 3000 },
    );
  });

  test.each([
    ['a blob that claims two gigabytes', '2f610000 2c620000 7fffffff 00000000'],
    ['an element that claims more than there is', '2362756e 646c6500 00000000 00000001 7ffffffc 2f610000'],
    ['an element of no bytes', '2362756e 646c6500 00000000 00000001 00000000'],
    ['a text without an end', '2f616161'],
    ['no slash', '61610000 2c000000'],
    ['bytes behind the last argument', '2f610000 2c000000 00000001'],
  ])('%s is refused', (_what, bad) => expect(readOsc(bytesOf(bad)).ok).toBe(false));
});

test('a message is read by people as it stands, with the tag where a value is not plain', () => {
  const words = (...args: OscArg[]) => oscWords({ address: '/a', args });
  expect(words()).toBe('/a');
  expect(words({ type: 'i', value: 7 }, { type: 'h', value: 2n ** 40n }, { type: 't', value: 5n })).toBe(
    '/a 7 1099511627776 5',
  );
  expect(words({ type: 'f', value: 2 }, { type: 'd', value: 0.1 }, { type: 'f', value: 1.23456789 })).toBe(
    '/a 2.0 0.1 1.234568',
  );
  expect(words({ type: 's', value: 'go' }, { type: 'S', value: 'x' }, { type: 'c', value: 'q' })).toBe(
    '/a "go" "x" "q"',
  );
  const bytes = Uint8Array.of(1, 2, 255, 4, 5, 6, 7, 8, 9);
  expect(words({ type: 'b', value: bytes }, { type: 'm', value: bytes.slice(0, 4) })).toBe(
    '/a b:0102ff0405060708 m:0102ff04',
  );
  expect(words({ type: 'T' }, { type: 'N' }, { type: '[', value: [{ type: 'i', value: 1 }, { type: 'F' }] })).toBe(
    '/a T N [1 F]',
  );
  const one = { address: '/b', args: [] };
  expect(oscWords({ time: 1n, elements: [one, { time: 1n, elements: [one, one] }] })).toBe(
    'bundle (/b; bundle (/b; /b))',
  );
});
