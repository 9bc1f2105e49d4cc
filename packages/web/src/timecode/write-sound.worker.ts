import { LtcWriter, pcmOf, wavHead } from '@deep-patch/codecs';
import { timecode, type show } from '@deep-patch/core';

export interface WriteJob {
  readonly rate: show.RateKey;
  /** Frame of the first word, from midnight of the code, and how many words. */
  readonly first: number;
  readonly frames: number;
  readonly sampleRate: number;
  readonly level: number;
  readonly riseTime: number;
  readonly userBits: readonly number[];
  readonly bits: 16 | 24;
  readonly speed: number;
  readonly backwards: boolean;
}
export type WriteAnswer =
  { readonly say: 'progress'; readonly share: number } | { readonly say: 'done'; readonly file: Blob };

const answer = (message: WriteAnswer) => self.postMessage(message);
const framesATell = 2000;

/** Writes linear time code; the browser keeps its pieces, so that the whole is never held at once here. */
self.onmessage = ({ data }: MessageEvent<WriteJob>) => {
  const rate = timecode.rates[data.rate];
  const writer = new LtcWriter({
    ...{ sampleRate: data.sampleRate, level: data.level, riseTime: data.riseTime, backwards: data.backwards },
    wordsPerSecond: timecode.framesPerSecond(rate) * data.speed,
    isAt25: rate.counts === 25,
  });
  const pieces: Blob[] = [];
  let held: Uint8Array<ArrayBuffer>[] = [];
  let samples = 0;
  const put = (block: Float32Array) => {
    samples += block.length;
    held.push(pcmOf(block, data.bits));
  };
  for (let at = 0; at < data.frames; at += 1) {
    const frame = data.first + (data.backwards ? data.frames - 1 - at : at);
    put(writer.word({ ...timecode.timeAfter(frame, rate), dropFrame: rate.drops > 0, userBits: data.userBits }));
    if (held.length < framesATell) continue;
    pieces.push(new Blob(held));
    held = [];
    answer({ say: 'progress', share: at / data.frames });
  }
  put(writer.end());
  const odd = ((samples * data.bits) / 8) % 2 === 1 ? [new Uint8Array(1)] : [];
  answer({ say: 'done', file: new Blob([wavHead(data.sampleRate, data.bits, samples), ...pieces, ...held, ...odd]) });
};
