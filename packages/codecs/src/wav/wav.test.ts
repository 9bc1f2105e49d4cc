import fc from 'fast-check';
import { describe, expect, test } from 'vitest';
import { LtcWavReader } from '../ltc/read-ltc-wav.ts';
import { soundOf, usualShape, wordsFrom } from '../ltc/ltc.test-data.ts';
import { WavFault, type WavFormat } from './wav-format.ts';
import { WavReader } from './read-wav.ts';
import { pcmOf, wavHead } from './write-wav.ts';

/** A file put together by hand: chunks in any order, sizes as asked. */
function file(
  chunks: readonly (readonly [name: string, body: Uint8Array, size?: number])[],
  kind = 'RIFF',
): Uint8Array {
  const parts = chunks.flatMap(([name, body, size = body.length]) => {
    const head = Buffer.alloc(8);
    head.write(name, 'latin1');
    head.writeUInt32LE(size, 4);
    return [head, body, Buffer.alloc(body.length % 2)];
  });
  return Buffer.concat([Buffer.from(`${kind}\0\0\0\0WAVE`, 'latin1'), ...parts]);
}

function format({ tag, channels, rate, bits }: { tag: number; channels: number; rate: number; bits: number }): Buffer {
  const body = Buffer.alloc(tag === 0xfffe ? 40 : 16);
  body.writeUInt16LE(tag, 0);
  body.writeUInt16LE(channels, 2);
  body.writeUInt32LE(rate, 4);
  body.writeUInt16LE(bits, 14);
  return body;
}

function read(
  bytes: Uint8Array,
  piece = 1000,
): { format: WavFormat | undefined; channels: number[][]; missing: number } {
  let told: WavFormat | undefined;
  const channels: number[][] = [];
  const reader = new WavReader({
    format: (one) => (told = one),
    samples: (blocks) => blocks.forEach((block, at) => (channels[at] ??= []).push(...block)),
  });
  for (let at = 0; at < bytes.length; at += piece) reader.push(bytes.subarray(at, at + piece));
  return { missing: reader.end(), format: told, channels };
}

describe('WAV files', () => {
  test('samples of every kind, in any pieces, on every channel', () => {
    const values = [0.75, 0.5, -0.5, 0.25, -1, 0.125];
    const kinds: [tag: number, bits: number, write: (value: number) => Buffer][] = [
      [1, 8, (value) => Buffer.from([Math.round(value * 128) + 128])],
      [1, 16, (value) => Buffer.from(new Int16Array([Math.round(value * 32_768)]).buffer)],
      [1, 24, (value) => Buffer.from(new Int32Array([value * 8_388_608]).buffer).subarray(0, 3)],
      [1, 32, (value) => Buffer.from(new Int32Array([value * 2_147_483_648]).buffer)],
      [3, 32, (value) => Buffer.from(new Float32Array([value]).buffer)],
      [3, 64, (value) => Buffer.from(new Float64Array([value]).buffer)],
    ];
    for (const [tag, bits, write] of kinds)
      for (const extensible of [false, true])
        for (const piece of [1, 3, 7, 1000]) {
          const body = format({ tag: extensible ? 0xfffe : tag, channels: 2, rate: 48_000, bits });
          if (extensible) body.writeUInt16LE(tag, 24);
          const samples = Buffer.concat(values.flatMap((value) => [write(value), write(-value / 2)]));
          const got = read(
            file([
              ['LIST', Buffer.alloc(11)],
              ['fmt ', body],
              ['odd ', Buffer.alloc(3)],
              ['data', samples],
            ]),
            piece,
          );
          expect(got.format).toEqual({ sampleRate: 48_000, channels: 2, bits, isFloat: tag === 3, samples: 6 });
          expect(got.channels).toEqual([values, values.map((value) => -value / 2)]);
          expect(got.missing).toBe(0);
        }
  });

  test('RF64 has its size elsewhere, a recording under way has none, and one cut short says how much is missing', () => {
    const body = format({ tag: 1, channels: 1, rate: 44_100, bits: 16 });
    const sizes = Buffer.alloc(28);
    sizes.writeBigUInt64LE(8n, 8);
    const samples = Buffer.from(new Int16Array([1, 2, 3, 4]).buffer);
    const chunks = [
      ['fmt ', body],
      ['data', samples, 0xffff_ffff],
    ] as const;
    expect(read(file([['ds64', sizes], ...chunks], 'RF64'))).toMatchObject({ format: { samples: 4 }, missing: 0 });
    expect(read(file(chunks))).toMatchObject({ format: { samples: undefined }, channels: [{ length: 4 }], missing: 0 });
    expect(
      read(
        file([
          ['fmt ', body],
          ['data', samples, 20],
        ]),
      ),
    ).toMatchObject({ format: { samples: 10 }, missing: 6 });
  });

  test('what cannot be read is said', () => {
    const fault = (bytes: Uint8Array) => {
      try {
        return String(read(bytes).missing);
      } catch (thrown) {
        return thrown instanceof WavFault ? thrown.message : 'crashed';
      }
    };
    const data = ['data', Buffer.alloc(8)] as const;
    const of = (body: Parameters<typeof format>[0]) => file([['fmt ', format(body)], data]);
    expect([
      fault(Buffer.from('This is a letter, and no sound at all.')),
      fault(file([data])),
      fault(file([['fmt ', Buffer.alloc(9)]])),
      fault(of({ tag: 85, channels: 2, rate: 48_000, bits: 0 })),
      fault(of({ tag: 1, channels: 2, rate: 48_000, bits: 12 })),
      fault(of({ tag: 1, channels: 0, rate: 48_000, bits: 16 })),
      fault(of({ tag: 1, channels: 1, rate: 3, bits: 16 })),
      fault(new Uint8Array(0)),
    ]).toEqual([
      'It is no WAV file: it does not begin as one.',
      'Its samples come before what they are: there is no “fmt” part.',
      'What it says of its samples is too short.',
      'Its samples are packed in a way that is not read here (format 85). Save it as PCM.',
      'Its samples have 12 bits, which is not read here. Save it with 16 or 24.',
      'It says that it has 0 channels.',
      'It says that it has 3 samples a second.',
      'It is no WAV file: it does not begin as one.',
    ]);
  });

  test('10,000 damaged files: each is read or refused in a sentence, none crashes, hangs or grows', () => {
    const sound = soundOf(wordsFrom(4, 25), usualShape);
    const whole = Buffer.concat([wavHead(48_000, 16, sound.length), pcmOf(sound, 16)]);
    let [cases, words, refused] = [0, 0, 0];
    const damage = fc.record({
      flips: fc.array(
        fc.tuple(
          fc.oneof(fc.integer({ min: 0, max: 60 }), fc.integer({ min: 0, max: whole.length - 1 })),
          fc.integer({ min: 0, max: 255 }),
        ),
        { maxLength: 12 },
      ),
      cut: fc.integer({ min: 0, max: whole.length }),
      twice: fc.boolean(),
      piece: fc.constantFrom(100, 4096, 100_000),
    });
    fc.assert(
      fc.property(damage, ({ flips, cut, twice, piece }) => {
        cases += 1;
        const bytes = Buffer.concat([whole.subarray(0, cut), twice ? whole.subarray(cut >> 1) : whole.subarray(cut)]);
        for (const [at, value] of flips) bytes[at % bytes.length] = value;
        const reader = new LtcWavReader(
          () => undefined,
          () => (words += 1),
        );
        try {
          for (let at = 0; at < bytes.length; at += piece) reader.push(bytes.subarray(at, at + piece));
          reader.end();
        } catch (thrown) {
          if (!(thrown instanceof WavFault)) throw thrown;
          refused += 1;
          expect(thrown.message).toMatch(/^[A-Z].*\.$/);
        }
      }),
      { numRuns: 10_000 },
    );
    expect(cases).toBe(10_000);
    // both ways were gone
    expect(Math.min(words, refused)).toBeGreaterThan(100);
  });
});
