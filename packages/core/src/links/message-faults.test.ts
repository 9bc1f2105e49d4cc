import fc from 'fast-check';
import { describe, expect, test } from 'vitest';
import type { Command } from '../show/index.ts';
import { messageFault } from './message-faults.ts';
import { isMidiMessage } from './midi-message.ts';

type Argument = Command['args'][number];
const argument = (type: Argument['type'], more: Partial<Argument> = {}): Argument => ({
  name: 'x',
  type,
  example: 1,
  ...more,
});
const faultOf = (
  protocol: 'osc' | 'http' | 'text' | 'midi',
  own: Argument,
  value: number | string | boolean,
  address = '/do',
) => messageFault({ protocol }, { key: 'c', label: 'c', address, args: [own], sets: [], reply: null }, [value])?.code;

describe('beside an address', () => {
  test.each([
    ['osc', argument('i'), 2_147_483_647, undefined],
    ['osc', argument('i'), 2_147_483_648, 'argument_range'],
    ['osc', argument('i'), -2_147_483_648, undefined],
    ['osc', argument('i'), -2_147_483_649, 'argument_range'],
    ['osc', argument('i'), 1.5, 'argument_type'],
    ['osc', argument('i'), '1', 'argument_type'],
    ['osc', argument('f'), 3.4e38, undefined],
    ['osc', argument('f'), 3.5e38, 'argument_range'],
    ['osc', argument('f'), -3.5e38, 'argument_range'],
    ['osc', argument('f', { min: 0.1 }), 0.1, undefined],
    ['osc', argument('f', { max: 0.7 }), 0.7, undefined],
    ['osc', argument('f', { max: 0.7 }), 0.70001, 'argument_range'],
    ['osc', argument('s'), '', undefined],
    ['osc', argument('s'), 'any text / with #', undefined],
    ['osc', argument('s'), 5, 'argument_type'],
    ['osc', argument('T'), true, undefined],
    ['osc', argument('T'), 'true', 'argument_type'],
    ['http', argument('i'), 4_000_000_000, undefined],
    ['http', argument('f'), 1e300, undefined],
    ['http', argument('i', { min: 1, max: 9 }), 0, 'argument_range'],
    ['http', argument('i', { min: 1, max: 9 }), 1, undefined],
    ['http', argument('i', { min: 1, max: 9 }), 9, undefined],
    ['http', argument('i', { min: 1, max: 9 }), 10, 'argument_range'],
  ] as const)('%s %j takes %j: %s', (protocol, own, value, code) => expect(faultOf(protocol, own, value)).toBe(code));
});

describe('within an address, a line or a MIDI message a value is text', () => {
  test.each([
    ['text', argument('i'), '12', undefined],
    ['text', argument('i'), '12.0', 'argument_type'],
    ['text', argument('i'), '12.5', 'argument_type'],
    ['text', argument('i'), 'twelve', 'argument_type'],
    ['text', argument('i'), '0x10', 'argument_type'],
    ['text', argument('i'), ' 12', 'argument_type'],
    ['text', argument('f'), '-1.5e3', undefined],
    ['text', argument('f'), '1.', 'argument_type'],
    ['text', argument('f'), '', 'argument_spelling'],
    ['text', argument('s'), 'Föhn a/b?', undefined],
    ['text', argument('s'), '', 'argument_spelling'],
    ['text', argument('T'), 'false', undefined],
    ['text', argument('T'), true, undefined],
    ['text', argument('T'), 'yes', 'argument_type'],
    ['midi', argument('i', { min: 0, max: 127 }), 127, undefined],
    ['midi', argument('i', { min: 0, max: 127 }), 128, 'argument_range'],
    ['midi', argument('i', { min: 0, max: 127 }), -1, 'argument_range'],
  ] as const)('%s %j takes %j: %s', (protocol, own, value, code) => expect(faultOf(protocol, own, value)).toBe(code));

  test('a part of an OSC address is printable, and no pattern', () => {
    for (const letter of ['#', '*', ',', '/', '?', '[', ']', '{', '}', ' ', 'ü', '\t'])
      expect([letter, faultOf('osc', argument('s'), `a${letter}b`, '/{x}')]).toEqual([letter, 'argument_spelling']);
    const ranged = { ...argument('i'), min: 1, max: 24 };
    const patterns = ['*', '2?', '1*', '?', '3?', '[12]', '2*4?'].map((text) => faultOf('osc', ranged, text, '/{x}'));
    expect(patterns.map((fault) => fault === undefined)).toEqual([true, true, true, true, false, false, false]);
    expect(faultOf('osc', argument('i'), '*', '/{x}')).toBe('argument_spelling');
    for (const letter of ['!', '~', '-', '_', '.', ':', 'a', '9'])
      expect([letter, faultOf('osc', argument('s'), `a${letter}b`, '/{x}')]).toEqual([letter, undefined]);
    // 32 bits are a matter of OSC arguments, not of the figures in an address
    expect(faultOf('osc', argument('i'), 4_000_000_000, '/{x}')).toBeUndefined();
  });
});

test('the first fault is told, and neither too many nor too few values pass', () => {
  const command = { address: '/do', args: [argument('i', { max: 5, unit: 'dB' }), argument('s', { name: 'y' })] };
  const of = (...args: (number | string)[]) => messageFault({ protocol: 'osc' }, command as unknown as Command, args);
  expect(of(1)).toEqual({ code: 'argument_count', wanted: 2, given: 1 });
  expect(of(1, 'a', 2)).toEqual({ code: 'argument_count', wanted: 2, given: 3 });
  expect(of(6, 3)).toEqual({ code: 'argument_range', name: 'x', value: '6', range: '−∞ to 5 dB' });
  expect(of(5, 3)).toEqual({ code: 'argument_type', name: 'y', type: 's' });
  expect(of(5, 'a')).toBeUndefined();
});

test('what passes as an OSC number comes back from 32 bits within its range', () => {
  let passed = 0;
  fc.assert(
    fc.property(
      fc.constantFrom('i' as const, 'f' as const),
      fc.oneof(fc.double(), fc.integer(), fc.maxSafeInteger()),
      (type, value) => {
        const view = new DataView(new ArrayBuffer(4));
        if (type === 'i') view.setInt32(0, value);
        else view.setFloat32(0, value);
        const back = type === 'i' ? view.getInt32(0) : view.getFloat32(0);
        const holds = type === 'i' ? Object.is(back, value === 0 ? 0 : value) : Number.isFinite(back);
        if (holds) passed += 1;
        expect([type, value, faultOf('osc', argument(type), value) === undefined]).toEqual([type, value, holds]);
      },
    ),
    { numRuns: 2000 },
  );
  expect(passed).toBeGreaterThan(500);
});

test.each([
  ['note-on 1 60 127', true],
  ['note-off 16 0 0', true],
  ['note-on 0 60 1', false],
  ['note-on 17 60 1', false],
  ['note-on 1 60', false],
  ['note-on 1 60 1 1', false],
  ['note-on 1 128 1', false],
  ['key-pressure 1 -1 1', false],
  ['control-change 1 7 90.0', true],
  ['control-change 1 7 90.5', false],
  ['program-change 1 5', true],
  ['program-change 1 5 5', false],
  ['channel-pressure 1 127', true],
  ['pitch-bend 1 -8192', true],
  ['pitch-bend 1 8191', true],
  ['pitch-bend 1 8192', false],
  ['pitch-bend 1 -8193', false],
  ['sysex 1 2 3', false],
  ['', false],
])('“%s” is a MIDI message: %s (MIDI 1.0, table 2)', (text, wanted) => expect(isMidiMessage(text)).toBe(wanted));

test.each([
  [{ min: 1, max: 9 }, 10, '1 to 9'],
  [{ max: 10, unit: 'dB' }, 11, '−∞ to 10 dB'],
  [{ min: 0, unit: 's' }, -1, '0 to ∞ s'],
])('a value out of range names the range: %j', (range, value, wanted) => {
  const own = argument('f', range);
  const command: Command = { key: 'c', label: 'c', address: '/do', args: [own], sets: [], reply: null };
  expect(messageFault({ protocol: 'osc' }, command, [value])).toEqual({
    code: 'argument_range',
    name: 'x',
    value: String(value),
    range: wanted,
  });
});
