import { LtcWavReader, LtcWriter, pcmOf, WavReader, wavHead } from '@deep-patch/codecs';
import { timecode } from '@deep-patch/core';
import { measureLines } from './measure-lines.ts';

// An hour of linear time code at 48 kHz: what reading it costs beside reading its samples only, and what it holds.
const sampleRate = 48_000;
const minutes = 60;
const piece = 256 * 1024;
const { tell, show } = measureLines();

const rate = timecode.rates['25'];
const writer = new LtcWriter({ sampleRate, wordsPerSecond: 25, level: 0.3, riseTime: 40e-6, isAt25: true });
const minute = joined(
  [...timecode.timesFrom(900_000, 60 * rate.counts, rate)].map((time) =>
    pcmOf(writer.word({ ...time, dropFrame: false, userBits: [0, 0, 2, 6, 1, 1, 0, 8] }), 16),
  ),
);
const head = wavHead(sampleRate, 16, (minute.length / 2) * minutes);

/** Pushes the hour minute by minute; says how long that took in ms, and by how much the heap grew after its first tenth. */
function hour(push: (bytes: Uint8Array) => void): { ms: number; grew: number } {
  const gc = (globalThis as { gc?: () => void }).gc;
  const began = performance.now();
  let spent = 0;
  let before = 0;
  push(head);
  for (let at = 0; at < minutes; at += 1) {
    for (let from = 0; from < minute.length; from += piece) push(minute.subarray(from, from + piece));
    if (at !== minutes / 10 - 1) continue;
    const paused = performance.now();
    gc?.();
    before = process.memoryUsage().heapUsed;
    spent += performance.now() - paused;
  }
  const ms = performance.now() - began - spent;
  gc?.();
  return { ms, grew: process.memoryUsage().heapUsed - before };
}

function readSamples(): number {
  let sum = 0;
  const reader = new WavReader({
    format: () => undefined,
    samples: ([channel]) => {
      sum += sumOf(channel ?? new Float32Array(0));
    },
  });
  const { ms } = hour((bytes) => reader.push(bytes));
  if (Number.isNaN(sum)) throw new Error('no samples');
  return ms;
}

function sumOf(block: Float32Array): number {
  let sum = 0;
  for (let at = 0; at < block.length; at += 1) sum += block[at] ?? 0;
  return sum;
}

let words = 0;
function readCode(): { ms: number; grew: number } {
  const builder = new timecode.ReadingBuilder(sampleRate);
  words = 0;
  const reader = new LtcWavReader(
    () => undefined,
    (_, word) => {
      words += 1;
      builder.push(word);
    },
  );
  const found = hour((bytes) => reader.push(bytes));
  reader.end();
  builder.end(reader.samples);
  return found;
}

function joined(blocks: readonly Uint8Array[]): Uint8Array {
  const all = new Uint8Array(blocks.reduce((sum, block) => sum + block.length, 0));
  let at = 0;
  for (const block of blocks) {
    all.set(block, at);
    at += block.length;
  }
  return all;
}

// the first run of each is for the compiler
readSamples();
readCode();
const samples = Math.min(readSamples(), readSamples());
const [first, second] = [readCode(), readCode()];
const best = first.ms < second.ms ? first : second;
tell('an hour of 48 kHz, samples only', `${samples.toFixed(0)} ms`);
tell('the same with its time code read', `${best.ms.toFixed(0)} ms`, 'under 3000 ms', best.ms < 3000);
tell('ratio to reading the samples', `${(best.ms / samples).toFixed(1)}x`, 'at most 8x', best.ms / samples <= 8);
tell(
  'words read',
  `${words} of ${minutes * 60 * 25}`,
  'all but those cut at the joints',
  words >= minutes * (60 * 25 - 1),
);
tell(
  'heap after the hour, against its first tenth',
  `${(best.grew / 1e6).toFixed(2)} MB`,
  'under 2 MB more',
  best.grew < 2e6,
);
show();
