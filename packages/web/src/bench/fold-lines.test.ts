import type { contract } from '@deep-patch/core';
import fc from 'fast-check';
import { expect, test } from 'vitest';
import { foldLines, timesWords } from './fold-lines.ts';

const line = (at: number, patch: Partial<contract.HeardMessage> = {}): contract.HeardMessage => ({
  at,
  from: 'Clock',
  fromId: 'c',
  to: 'Media',
  toId: 'm',
  protocol: 'MIDI',
  text: 'tick',
  ok: true,
  ...patch,
});

test('what repeats is one line with its count and rate, and stands where its latest does', () => {
  const lines = [line(0), line(250), line(300, { text: 'start' }), line(500), line(750), line(800, { ok: false })];
  const folded = foldLines(lines);
  expect(folded.map(({ message }) => [message.at, message.text, message.ok])).toEqual([
    [800, 'tick', false],
    [750, 'tick', true],
    [300, 'start', true],
  ]);
  expect(folded.map(timesWords)).toEqual(['', '4 times, 4.0 a second', '']);
  expect(foldLines([line(1), line(1)]).map(timesWords)).toEqual(['2 times']);
  // words that move on are one line all the same, and it says the latest
  const code = [1, 2].map((n) => line(n, { as: 'time code', text: `time code ${n}` }));
  expect(foldLines(code).map(({ message, times }) => [message.text, times])).toEqual([['time code 2', 2]]);
});

test('no line is lost and none is told twice, whatever comes', () => {
  const some = fc.record({
    fromId: fc.constantFrom('a', 'b'),
    toId: fc.constantFrom('a', 'b'),
    text: fc.constantFrom('x', 'y'),
    protocol: fc.constantFrom('OSC', 'MIDI'),
    ok: fc.boolean(),
  });
  let cases = 0;
  fc.assert(
    fc.property(fc.array(some, { maxLength: 30 }), (list) => {
      cases += 1;
      const lines = list.map((patch, at) => line(at, patch));
      const folded = foldLines(lines);
      expect(folded.reduce((sum, { times }) => sum + times, 0)).toBe(lines.length);
      const told = (one: object) => JSON.stringify({ ...one, at: 0 });
      for (const { message, times } of folded)
        expect(lines.filter((each) => told(each) === told(message))).toHaveLength(times);
      expect(folded.map(({ message }) => message.at)).toEqual(
        folded.map(({ message }) => message.at).toSorted((a, b) => b - a),
      );
    }),
  );
  expect(cases).toBe(100);
});
