import fc from 'fast-check';
import { describe, expect, test } from 'vitest';
import {
  convert,
  frameAtSample,
  framesOf,
  readTime,
  samplesOf,
  secondsToLoseFrame,
  timeAfter,
  timeWords,
} from './count.ts';
import { rateKeys } from '../show/index.ts';
import { framesPerDay, rates, type Rate } from './rates.ts';

/** A clock that counts as somebody would aloud: on by one, and over the numbers that the rule leaves out. */
function* countedAloud({ counts, drops }: Rate): Generator<[number, number, number, number]> {
  for (let hours = 0; hours < 24; hours += 1)
    for (let minutes = 0; minutes < 60; minutes += 1)
      for (let seconds = 0; seconds < 60; seconds += 1)
        for (let frames = 0; frames < counts; frames += 1)
          if (!(frames < drops && seconds === 0 && ![0, 10, 20, 30, 40, 50].includes(minutes)))
            yield [hours, minutes, seconds, frames];
}

describe('time code counts', () => {
  test.each(rateKeys)('as if counted frame by frame over 24 hours at %s', (key) => {
    const rate = rates[key];
    let count = 0;
    for (const [hours, minutes, seconds, frames] of countedAloud(rate)) {
      const time = timeAfter(count, rate);
      const isSame =
        time.hours === hours && time.minutes === minutes && time.seconds === seconds && time.frames === frames;
      // two million comparisons: only one that fails is worth an expectation
      if (!isSame || framesOf(time, rate) !== count)
        expect([count, time]).toEqual([count, { hours, minutes, seconds, frames }]);
      count += 1;
    }
    expect(count).toBe(framesPerDay(rate));
    expect(timeAfter(count, rate)).toEqual({ hours: 0, minutes: 0, seconds: 0, frames: 0 });
    expect(framesOf(timeAfter(-1, rate), rate)).toBe(count - 1);
  });

  test('a drop-frame day is as long as the true one to 86.4 ms, a minute and ten of it as ST 12-1 says', () => {
    expect(framesPerDay(rates['29.97df'])).toBe(2_589_408);
    expect(timeWords(timeAfter(1800, rates['29.97df']), rates['29.97df'])).toBe('00:01:00;02');
    expect(timeWords(timeAfter(17_982, rates['29.97df']), rates['29.97df'])).toBe('00:10:00;00');
    expect(timeWords(timeAfter(3600, rates['59.94df']), rates['59.94df'])).toBe('00:01:00;04');
  });

  test('a frame begins at a sample that is in it, and not the one before', () => {
    let cases = 0;
    fc.assert(
      fc.property(
        fc.constantFrom(...rateKeys),
        fc.integer({ min: 0, max: 5_184_000 }),
        fc.constantFrom(44_100, 48_000, 88_200, 96_000),
        (key, frames, sampleRate) => {
          cases += 1;
          const at = samplesOf(frames, rates[key], sampleRate);
          expect(frameAtSample(at, rates[key], sampleRate)).toBe(frames);
          expect(frameAtSample(at - 1, rates[key], sampleRate)).toBe(frames - 1);
        },
      ),
      { numRuns: 500 },
    );
    expect(cases).toBe(500);
  });

  test('what is typed is read in every way that people write it, and what cannot be is said', () => {
    const read = (text: string, key: (typeof rateKeys)[number] = '25') => {
      const typed = readTime(text, rates[key]);
      return 'fault' in typed ? typed.fault : timeWords(typed.time, rates[key]);
    };
    expect(['10:04:31:08', '10.04.31.08', ' 10 4 31 8 ', '10043108', '1:0'].map((text) => read(text))).toEqual([
      ...Array.from({ length: 4 }, () => '10:04:31:08'),
      '00:00:01:00',
    ]);
    expect([read('24:0:0:0'), read('60:00:00'), read('61:00'), read('0:25'), read(''), read('1:2:3:4:5')]).toEqual([
      'Hours end at 23, and this has 24.',
      'Minutes end at 59, and this has 60.',
      'Seconds end at 59, and this has 61.',
      'At 25 frames end at 24, and this has 25.',
      'Type hours, minutes, seconds and frames, such as 10:04:31:08.',
      'Type hours, minutes, seconds and frames, such as 10:04:31:08.',
    ]);
    expect(readTime('00:01:00;00', rates['29.97df'])).toMatchObject({ moved: true, time: { frames: 2 } });
    expect(readTime('00:10:00;00', rates['29.97df'])).toMatchObject({ moved: false });
  });

  test('a moment converted is in the frame that is on at that moment', () => {
    let cases = 0;
    fc.assert(
      fc.property(
        fc.constantFrom(...rateKeys),
        fc.constantFrom(...rateKeys),
        fc.bigInt({ min: 0n, max: 5_000_000n }),
        (a, b, frames) => {
          cases += 1;
          const [from, to] = [rates[a], rates[b]];
          const there = convert(Number(frames), from, to);
          // moments as fractions over the same denominator, in whole numbers of any size
          const moment = frames * BigInt(from.under) * BigInt(to.over);
          const begins = BigInt(there.frames) * BigInt(to.under) * BigInt(from.over);
          expect(begins <= moment && moment < begins + BigInt(to.under) * BigInt(from.over)).toBe(true);
          expect(there.lost).toBeGreaterThanOrEqual(-1e-9);
        },
      ),
      { numRuns: 500 },
    );
    expect(cases).toBe(500);
  });

  test('clocks that are 12 parts in a million apart lose a frame of 25 in 55 minutes', () => {
    expect(secondsToLoseFrame(12, rates['25']) / 60).toBeCloseTo(55.6, 1);
    expect(secondsToLoseFrame(0, rates['25'])).toBe(Infinity);
  });
});
