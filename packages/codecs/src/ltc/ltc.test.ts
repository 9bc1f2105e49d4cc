import { execFileSync } from 'node:child_process';
import { existsSync, mkdtempSync, readFileSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import fc from 'fast-check';
import { afterAll, beforeAll, describe, expect, test } from 'vitest';
import { wordOf } from './ltc-word.ts';
import { heardIn, noise, rootMeanSquare, soundOf, usualShape, wordsFrom } from './ltc.test-data.ts';
import { casesOf } from '../cases.test-data.ts';

const kinds = [
  { fps: 24_000 / 1001, counts: 24, dropFrame: false },
  { fps: 24, counts: 24, dropFrame: false },
  { fps: 25, counts: 25, dropFrame: false },
  { fps: 30_000 / 1001, counts: 30, dropFrame: true },
  { fps: 30_000 / 1001, counts: 30, dropFrame: false },
  { fps: 30, counts: 30, dropFrame: false },
];
const sampleRates = [44_100, 48_000, 88_200, 96_000];

describe('linear time code', () => {
  test('a word has its parts where ST 12-1 table 3 puts them, and an even number of zeros', () => {
    const time = {
      hours: 23,
      minutes: 59,
      seconds: 48,
      frames: 29,
      dropFrame: true,
      userBits: [1, 2, 4, 8, 15, 0, 5, 10],
    };
    const word = wordOf(time, false);
    expect(word.join('').match(/.{8}/g)).toEqual([
      // units and user bits in turns, the lowest bit first; then the sync word
      ...['10011000', '01100100', '00010010', '00100001', '10011111', '10100000', '11001010', '01000101'],
      ...['00111111', '11111101'],
    ]);
    for (const isAt25 of [true, false])
      for (const one of wordsFrom(70, 25)) expect(wordOf(one, isAt25).filter((bit) => bit === 0).length % 2).toBe(0);
  });

  test('every word is read at every rate, from a quarter to four times the speed, clean and at 20 dB above noise', () => {
    let words = 0;
    const many = casesOf(60);
    for (const { fps, counts, dropFrame } of kinds)
      for (const sampleRate of sampleRates)
        for (const speed of [0.25, 0.5, 1, 2.3, 4]) {
          const said = wordsFrom(many, counts, dropFrame);
          const sound = soundOf(said, {
            ...usualShape,
            sampleRate,
            wordsPerSecond: fps * speed,
            isAt25: counts === 25,
          });
          const [dice, loud] = [noise(words + 1), rootMeanSquare(sound) / 10];
          for (const heard of [sound, sound.map((value) => value + dice() * loud)])
            expect(heardIn(heard, sampleRate).map(({ time }) => time)).toEqual(said);
          words += 2 * said.length;
        }
    expect(words).toBe(2 * many * 6 * 4 * 5);
  });

  test('whatever is done to the sound, every whole word in it is read, and none that was not said', () => {
    let cases = 0;
    const treatment = fc.record({
      kind: fc.constantFrom(...kinds),
      sampleRate: fc.constantFrom(...sampleRates),
      speed: fc.double({ min: 0.25, max: 4, noNaN: true }),
      backwards: fc.boolean(),
      inverted: fc.boolean(),
      level: fc.double({ min: 0.01, max: 1, noNaN: true }),
      riseTime: fc.constantFrom(0, 25e-6, 40e-6, 50e-6),
      offset: fc.double({ min: -0.5, max: 0.5, noNaN: true }),
      clip: fc.constantFrom(1, 0.8, 0.4),
      cut: fc.double({ min: 0, max: 3, noNaN: true }),
      piece: fc.integer({ min: 1, max: 9000 }),
      bits: fc.constantFrom(8, 16, 24),
    });
    fc.assert(
      fc.property(treatment, (asked) => {
        cases += 1;
        const { kind, sampleRate, speed, backwards, level } = asked;
        const wordsPerSecond = kind.fps * speed;
        const said = wordsFrom(40, kind.counts, kind.dropFrame);
        const shape = { ...usualShape, ...asked, wordsPerSecond, isAt25: kind.counts === 25 };
        const order = backwards ? said.toReversed() : said;
        const steps = 2 ** (asked.bits - 1);
        const treated = soundOf(order, shape)
          .map((value) => (asked.inverted ? -value : value))
          .map((value) => Math.max(-asked.clip * level, Math.min(asked.clip * level, value)) + asked.offset)
          .map((value) => Math.round(value * steps) / steps);
        const perWord = sampleRate / wordsPerSecond;
        const heard = heardIn(treated.subarray(Math.floor(asked.cut * perWord)), sampleRate, asked.piece);
        // beside an offset the code is found once it is clear that the offset is no part of it
        const whole = order.slice(Math.ceil(asked.cut) + (asked.offset === 0 ? 0 : 3));
        expect(heard.length).toBeGreaterThanOrEqual(whole.length);
        expect(heard.map(({ time }) => time)).toEqual(order.slice(-heard.length));
        expect(heard.every((word) => word.backwards === backwards)).toBe(true);
      }),
      { numRuns: casesOf(150) },
    );
    expect(cases).toBe(casesOf(150));
  });

  test('hum as loud as the code, a level that fades, and a speed that changes all the time', () => {
    const said = wordsFrom(200, 25);
    const sound = soundOf(said, usualShape);
    const hummed = sound.map((value, at) => value + 0.5 * Math.sin((2 * Math.PI * 50 * at) / 48_000));
    const faded = sound.map((value, at) => value * 10 ** (-1.5 * (at / sound.length)));
    for (const heard of [hummed, faded]) {
      const times = heardIn(heard, 48_000).map(({ time }) => time);
      expect(times).toEqual(said.slice(-times.length));
      expect(times.length).toBeGreaterThanOrEqual(said.length - 1);
    }
    // played by hand: from half the speed to twice, and back, once in three seconds
    const wound: number[] = [];
    for (let at = 0, from = 0; from < sound.length - 2; at += 1) {
      wound.push((sound[Math.floor(from)] ?? 0) * (1 - (from % 1)) + (sound[Math.ceil(from)] ?? 0) * (from % 1));
      from += 2 ** Math.sin((2 * Math.PI * at) / (3 * 48_000));
    }
    const times = heardIn(Float32Array.from(wound), 48_000).map(({ time }) => time);
    expect(times.length).toBeGreaterThanOrEqual(said.length - 2);
    expect(times).toEqual(said.slice(-1 - times.length).slice(0, times.length));
  });

  test('at a tenth of the speed, and at ten times where there are samples enough for it', () => {
    const said = wordsFrom(60, 25);
    for (const [speed, sampleRate] of [
      [0.1, 48_000],
      [7, 48_000],
      [10, 96_000],
    ] as const) {
      const sound = soundOf(said, { ...usualShape, sampleRate, wordsPerSecond: 25 * speed });
      expect(heardIn(sound, sampleRate).map(({ time }) => time)).toEqual(said);
    }
  });

  test('noise, silence, music and a rectangle say nothing', () => {
    const dice = noise(7);
    const sounds = [
      new Float32Array(200_000),
      new Float32Array(200_000).map(() => dice()),
      new Float32Array(200_000).map((_, at) => Math.sin(at / 7) * Math.sin(at / 1900)),
      new Float32Array(200_000).map((_, at) => (Math.floor(at / 10) % 2 === 0 ? 0.5 : -0.5)),
    ];
    expect(sounds.flatMap((sound) => heardIn(sound, 48_000))).toEqual([]);
  });
});

const hasJudge = existsSync('/usr/include/ltc.h') && existsSync('/usr/bin/gcc');
describe.skipIf(!hasJudge)(
  `an outside library for linear time code${hasJudge ? '' : ' (skipped: libltc-dev is not here)'}`,
  () => {
    let dir = '';
    beforeAll(() => {
      dir = mkdtempSync(join(tmpdir(), 'deep-patch-ltc-'));
      execFileSync('gcc', ['-O2', join(import.meta.dirname, 'ltc-judge.c'), '-o', join(dir, 'judge'), '-lltc']);
    });
    afterAll(() => rmSync(dir, { recursive: true, force: true }));
    const judge = (...args: (string | number)[]) =>
      execFileSync(join(dir, 'judge'), args.map(String)).toString().trim();

    test('reads what is written, forwards and backwards, with its user bits', () => {
      for (const { fps, counts, dropFrame } of kinds)
        for (const sampleRate of sampleRates)
          for (const backwards of [false, true]) {
            const said = wordsFrom(80, counts, dropFrame);
            const shape = { ...usualShape, sampleRate, wordsPerSecond: fps, isAt25: counts === 25, backwards };
            const sound = soundOf(backwards ? said.toReversed() : said, shape);
            const file = join(dir, 'sound.f32');
            writeFileSync(file, new Uint8Array(sound.buffer));
            const lines = judge('d', Math.round(sampleRate / fps), file).split('\n');
            const two = (value: number) => String(value).padStart(2, '0');
            const wanted = (backwards ? said.toReversed() : said).map(
              (time) =>
                `${[time.hours, time.minutes, time.seconds].map(two).join(':')}${dropFrame ? ';' : ':'}${two(time.frames)} ` +
                `${time.userBits
                  .map((bits) => bits.toString(16))
                  .toReversed()
                  .join('')} ${backwards ? 'backwards' : 'forwards'}`,
            );
            // it needs a word to tune in, or, backwards, one that follows the last
            const from = wanted.indexOf(lines[0] ?? '');
            expect(lines.length).toBeGreaterThanOrEqual(79);
            expect(lines).toEqual(wanted.slice(from, from + lines.length));
          }
    });

    test('is read, at every rate that it writes and at other speeds', () => {
      for (const [standard, fps, counts, dropFrame] of [
        [0, 24, 24, false],
        [1, 25, 25, false],
        [2, 30_000 / 1001, 30, true],
      ] as const)
        for (const speed of [0.25, 1, 4]) {
          const file = join(dir, 'sound.u8');
          judge('e', 48_000 / speed, fps, standard, 300, file);
          const sound = Float32Array.from(readFileSync(file), (value) => (value - 128) / 128);
          const heard = heardIn(sound, 48_000).map(({ time }) => time);
          expect(heard.length).toBe(300);
          expect(heard[0]).toMatchObject({ hours: 0, minutes: 59, seconds: 58, frames: 0, dropFrame });
          // two seconds to the hour, over which nothing is left out
          heard.forEach((time, at) => {
            const second = 3598 + Math.floor(at / counts);
            expect([time?.hours, time?.minutes, time?.seconds, time?.frames]).toEqual([
              ...[Math.floor(second / 3600), Math.floor(second / 60) % 60, second % 60, at % counts],
            ]);
          });
        }
    });
  },
);
