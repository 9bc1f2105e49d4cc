import { LtcReader, type HeardWord } from './ltc-reader.ts';
import type { LtcTime } from './ltc-word.ts';
import { LtcWriter, type LtcShape } from './write-ltc.ts';

export const usualShape: LtcShape = {
  sampleRate: 48_000,
  wordsPerSecond: 25,
  level: 0.5,
  riseTime: 40e-6,
  isAt25: true,
};

/** Words that follow each other from 10:04:58 on, each with other user bits. */
export const wordsFrom = (count: number, counts: number, dropFrame = false): LtcTime[] =>
  Array.from({ length: count }, (_, at) => {
    const seconds = 4 * 60 + 58 + Math.floor(at / counts);
    return {
      hours: 10,
      minutes: Math.floor(seconds / 60),
      seconds: seconds % 60,
      frames: at % counts,
      dropFrame,
      userBits: [at & 15, (at >> 4) & 15, 2, 6, 15, 0, 8, 9],
    };
  });

export function soundOf(words: readonly LtcTime[], shape: LtcShape): Float32Array {
  const writer = new LtcWriter(shape);
  const blocks = [...words.map((word) => writer.word(word)), writer.end()];
  const sound = new Float32Array(blocks.reduce((sum, block) => sum + block.length, 0));
  let at = 0;
  for (const block of blocks) {
    sound.set(block, at);
    at += block.length;
  }
  return sound;
}

/** Reads it in pieces of any size. */
export function heardIn(sound: Float32Array, sampleRate: number, piece = 4096): HeardWord[] {
  const heard: HeardWord[] = [];
  const reader = new LtcReader(sampleRate, (word) => heard.push(word));
  for (let at = 0; at < sound.length; at += piece) reader.push(sound.subarray(at, at + piece));
  reader.end();
  return heard;
}

/** Noise of a normal distribution that is the same for the same seed (Box and Muller). */
export function noise(seed: number): () => number {
  let state = seed | 1;
  const next = () => {
    state = Math.imul(state ^ (state >>> 15), 0x2c1b3c6d);
    state = Math.imul(state ^ (state >>> 12), 0x297a2d39) + 0x6d2b79f5;
    return ((state ^ (state >>> 14)) >>> 0) / 2 ** 32;
  };
  return () => Math.sqrt(-2 * Math.log(next() + 1e-12)) * Math.cos(2 * Math.PI * next());
}

export const rootMeanSquare = (sound: Float32Array): number =>
  Math.sqrt(sound.reduce((sum, value) => sum + value * value, 0) / sound.length);
