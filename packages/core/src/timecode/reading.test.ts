import fc from 'fast-check';
import { describe, expect, test } from 'vitest';
import { timeAfter, timeWords } from './count.ts';
import { MidiReader } from './midi-reading.ts';
import { carriedRates, framesPerSecond, rates } from './rates.ts';
import { readingLines } from './reading-words.ts';
import { ReadingBuilder, type Word } from './reading.ts';

/** What a sound says, piece by piece: so many frames of code that are heard, or that pass unheard. */
type Piece = { heard: number; from?: number } | { silent: number };

interface Asked {
  rate: (typeof carriedRates)[number];
  start: number;
  pieces: readonly Piece[];
  ppm?: number;
  backwards?: boolean;
  speed?: number;
  sampleRate?: number;
}

function wordsOf({ rate: key, start, pieces, ppm = 0, backwards = false, speed = 1, sampleRate = 48_000 }: Asked) {
  const rate = rates[key];
  const length = sampleRate / framesPerSecond(rate) / speed / (1 + ppm / 1e6);
  const words: Word[] = [];
  let [at, frame] = [0, start];
  for (const piece of pieces) {
    if ('silent' in piece) {
      at += piece.silent * length;
      continue;
    }
    frame = piece.from ?? frame;
    for (let n = 0; n < piece.heard; n += 1) {
      const time = { ...timeAfter(frame, rate), dropFrame: rate.drops > 0, userBits: [1, 2, 3, 4, 5, 6, 7, 8] };
      words.push({ time, backwards, from: at, until: at + length, level: 0.25 });
      at += length;
      frame += backwards ? -1 : 1;
    }
  }
  return { words, samples: at };
}

function reading(asked: Asked) {
  const { words, samples } = wordsOf(asked);
  const builder = new ReadingBuilder(asked.sampleRate ?? 48_000);
  for (const word of words) builder.push(word);
  const read = builder.end(samples);
  if (!read) throw new Error('nothing was read');
  return read;
}
const kinds = (asked: Asked) => reading(asked).breaks.map(({ kind, frames }) => [kind, frames]);

describe('a reading of linear time code', () => {
  test('tells rate, first, last and clock of a code that runs, from anywhere, however short', () => {
    let cases = 0;
    const asked = fc.record({
      rate: fc.constantFrom(...carriedRates),
      start: fc.integer({ min: 0, max: 2_073_599 }),
      heard: fc.integer({ min: 80, max: 400 }),
      ppm: fc.integer({ min: -300, max: 300 }),
      backwards: fc.boolean(),
      sampleRate: fc.constantFrom(44_100, 48_000, 96_000),
    });
    fc.assert(
      fc.property(asked, ({ heard, ...rest }) => {
        cases += 1;
        const read = reading({ ...rest, pieces: [{ heard }] });
        const rate = rates[rest.rate];
        expect(read.rate).toBe(rest.rate);
        expect([read.first, read.last].map((time) => timeWords(time, rate))).toEqual(
          [0, (heard - 1) * (rest.backwards ? -1 : 1)].map((on) => timeWords(timeAfter(rest.start + on, rate), rate)),
        );
        expect(read.clock?.ppm).toBeCloseTo(rest.ppm, 3);
        expect([read.words, read.expected, read.breaks.length, read.impossible]).toEqual([heard, heard, 0, 0]);
        expect(read.direction).toBe(rest.backwards ? 'backwards' : 'forwards');
        expect(read.level.mean).toBeCloseTo(-12.04, 2);
        // how far it is off at the end is what its clock says
        const off = read.drift.at(-1)?.off ?? NaN;
        const nominal = ((heard - 1) / framesPerSecond(rate)) * 1000;
        expect(off).toBeCloseTo(nominal - nominal / (1 + rest.ppm / 1e6), 6);
      }),
      { numRuns: 200 },
    );
    expect(cases).toBe(200);
  });

  test('every kind of break is told by what it is', () => {
    const code = (pieces: readonly Piece[], backwards = false): Asked => ({
      rate: '25',
      start: 90_000,
      pieces,
      backwards,
    });
    expect(kinds(code([{ heard: 100 }, { silent: 29 }, { heard: 50, from: 90_129 }]))).toEqual([['missing', 29]]);
    expect(kinds(code([{ heard: 100 }, { silent: 29 }, { heard: 50 }]))).toEqual([['pause', 29]]);
    expect(kinds(code([{ heard: 100 }, { heard: 50, from: 90_350 }]))).toEqual([['jump', 250]]);
    expect(kinds(code([{ heard: 100 }, { heard: 50, from: 89_850 }]))).toEqual([['jump_back', 250]]);
    expect(kinds(code([{ heard: 100 }, { heard: 1, from: 90_099 }, { heard: 50 }]))).toEqual([['repeated', 1]]);
    expect(kinds(code([{ heard: 100 }, { heard: 1, from: 5 }, { heard: 50, from: 90_101 }]))).toEqual([['wrong', 1]]);
    expect(kinds(code([{ heard: 100 }, { silent: 29 }, { heard: 50, from: 89_871 }], true))).toEqual([['missing', 29]]);
    expect(kinds(code([{ heard: 100 }, { heard: 50, from: 89_800 }], true))).toEqual([['jump', 100]]);
    // over midnight it goes on
    expect(kinds({ ...code([{ heard: 100 }]), start: 24 * 90_000 - 50 })).toEqual([]);
  });

  test('breaks anywhere are found where they are, and add up', () => {
    let cases = 0;
    const gap = fc.record({ heard: fc.integer({ min: 30, max: 90 }), lost: fc.integer({ min: 2, max: 200 }) });
    fc.assert(
      fc.property(fc.constantFrom(...carriedRates), fc.array(gap, { minLength: 1, maxLength: 8 }), (key, gaps) => {
        cases += 1;
        let frame = 1000;
        const pieces = gaps.flatMap(({ heard, lost }): Piece[] => {
          const piece = { heard, from: frame };
          frame += heard + lost;
          return [piece, { silent: lost }];
        });
        const read = reading({ rate: key, start: 0, pieces: [...pieces, { heard: 60, from: frame }] });
        expect(read.breaks.map(({ kind, frames }) => ({ kind, frames }))).toEqual(
          gaps.map(({ lost }) => ({ kind: 'missing', frames: lost })),
        );
        expect(read.expected - read.words).toBe(gaps.reduce((sum, { lost }) => sum + lost, 0));
        expect(read.drift.filter(({ off }) => off === null).length).toBe(gaps.length);
      }),
      { numRuns: 100 },
    );
    expect(cases).toBe(100);
  });

  test('an hour with a thousand breaks keeps no more than it lists', () => {
    const pieces = Array.from({ length: 1000 }, (_, at): Piece => ({ heard: 90, from: at * 200 }));
    const read = reading({ rate: '25', start: 0, pieces });
    expect([read.breaks.length, read.moreBreaks, read.drift.length < 5000]).toEqual([500, 499, true]);
  });

  test('away from its usual speed 30 and 29.97 are not told apart, and no clock is claimed', () => {
    const read = reading({ rate: '29.97', start: 0, pieces: [{ heard: 200 }], speed: 2 });
    expect([read.isSure, read.clock, Math.round(read.speed.mean * 100)]).toEqual([false, null, 200]);
    expect(readingLines(read)[0]).toBe(
      'linear time code at 30 or 29.97, not drop-frame · forwards, at 2.00 times its speed',
    );
  });

  test('numbers that drop-frame leaves out are counted where they come', () => {
    const { words, samples } = wordsOf({ rate: '30', start: 1700, pieces: [{ heard: 200 }] });
    const builder = new ReadingBuilder(48_000);
    for (const word of words) builder.push({ ...word, time: word.time && { ...word.time, dropFrame: true } });
    expect(builder.end(samples)?.impossible).toBe(2);
  });

  test('nothing heard is no reading', () => {
    expect(new ReadingBuilder(48_000).end(1000)).toBeUndefined();
  });
});

describe('a reading of MIDI time code', () => {
  const codes = { '24': 0, '25': 1, '29.97df': 2, '30': 3 } as const;
  /** Eight pieces for each second frame, as MIDI 1.0 sends them; `skip` says which are lost. */
  function send(
    key: keyof typeof codes,
    start: number,
    pairs: number,
    {
      backwards = false,
      skip = () => false,
      late = () => 0,
    }: {
      backwards?: boolean;
      skip?: (n: number) => boolean;
      late?: (n: number) => number;
    } = {},
  ) {
    const rate = rates[key];
    const reader = new MidiReader();
    const quarter = 1 / framesPerSecond(rate) / 4;
    let n = 0;
    for (let pair = 0; pair < pairs; pair += 1) {
      const { hours, minutes, seconds, frames } = timeAfter(start + (backwards ? -2 : 2) * pair, rate);
      const halves = [
        frames,
        frames >> 4,
        seconds,
        seconds >> 4,
        minutes,
        minutes >> 4,
        hours,
        (hours >> 4) | (codes[key] << 1),
      ];
      for (let piece = 0; piece < 8; piece += 1, n += 1) {
        const one = backwards ? 7 - piece : piece;
        if (!skip(n)) reader.quarter(n * quarter + late(n), one, (halves[one] ?? 0) & 15);
      }
    }
    return reader;
  }

  test('says the time two frames on, in either direction, at every rate', () => {
    let cases = 0;
    fc.assert(
      fc.property(
        fc.constantFrom('24' as const, '25' as const, '29.97df' as const, '30' as const),
        fc.integer({ min: 0, max: 1_000_000 }),
        fc.integer({ min: 2, max: 40 }),
        fc.boolean(),
        (key, start, pairs, backwards) => {
          cases += 1;
          const reader = send(key, start, pairs, { backwards });
          const last = start + (backwards ? -2 : 2) * (pairs - 1);
          expect(reader.now).toEqual(timeAfter(last + (backwards ? 0 : 2), rates[key]));
          const read = reader.reading();
          expect(read).toMatchObject({
            rate: key,
            missing: 0,
            quarters: pairs * 8,
            direction: backwards ? 'backwards' : 'forwards',
          });
          expect(read.breaks).toEqual([]);
        },
      ),
      { numRuns: 200 },
    );
    expect(cases).toBe(200);
  });

  test('counts the pieces that did not come, and measures how unevenly the others did', () => {
    const lossy = send('25', 500, 50, { skip: (n) => [33, 34, 200].includes(n) }).reading();
    expect([lossy.missing, lossy.breaks.map(({ kind, frames }) => [kind, frames])]).toEqual([
      3,
      [
        ['missing', 2],
        ['missing', 1],
      ],
    ]);
    const uneven = send('25', 500, 50, { late: (n) => (n % 2) * 0.004 }).reading();
    expect(uneven.jitter?.range).toBeCloseTo(4, 1);
    expect(uneven.jitter?.rms).toBeCloseTo(2, 1);
    expect(send('25', 500, 50).reading().jitter?.range).toBeCloseTo(0, 6);
  });

  test('a full frame puts it elsewhere; a stop and a turn are told; a time that cannot be is not believed', () => {
    const reader = send('25', 500, 10);
    reader.full(2, 1, { hours: 1, minutes: 0, seconds: 0, frames: 0 });
    expect(reader.now).toMatchObject({ hours: 1 });
    for (let piece = 0; piece < 8; piece += 1) reader.quarter(5 + piece / 100, piece, 15);
    expect(reader.now).toMatchObject({ hours: 1, frames: 0 });
    reader.quarter(9, 0, 0);
    reader.quarter(9.01, 1, 0);
    reader.quarter(9.02, 0, 0);
    expect(reader.reading().breaks.map(({ kind }) => kind)).toEqual(['jump', 'damaged', 'pause', 'turns']);
    expect(reader.reading().fulls).toBe(1);
  });
});
