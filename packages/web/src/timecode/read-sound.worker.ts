import { LtcReader, LtcWavReader, WavFault } from '@deep-patch/codecs';
import { timecode } from '@deep-patch/core';

export type SoundJob =
  | { readonly do: 'file'; readonly file: File }
  /** Samples that were unpacked elsewhere, or come live. */
  | { readonly do: 'samples'; readonly sampleRate: number; readonly samples: Float32Array; readonly isLast: boolean };
export type SoundAnswer =
  | { readonly say: 'progress'; readonly share: number }
  | { readonly say: 'now'; readonly time: timecode.CodeTime; readonly words: number }
  | {
      readonly say: 'done';
      readonly reading: timecode.Reading;
      readonly channel: number;
      readonly channels: number;
      readonly sampleRate: number;
      readonly missing: number;
    }
  | { readonly say: 'nothing'; readonly fault: string; readonly isWav: boolean };

const answer = (message: SoundAnswer) => self.postMessage(message);
const tellEveryMs = 100;

/** Reads linear time code out of a file piece by piece, so that its length does not matter, or out of samples as they come. */
self.onmessage = ({ data }: MessageEvent<SoundJob>) => {
  if (data.do === 'file') void readFile(data.file);
  else take(data);
};

async function readFile(file: File): Promise<void> {
  const builders: timecode.ReadingBuilder[] = [];
  let sampleRate = 48_000;
  let isWav = false;
  const reader = new LtcWavReader(
    (format) => {
      ({ sampleRate } = format);
      isWav = true;
    },
    (channel, word) => (builders[channel] ??= new timecode.ReadingBuilder(sampleRate)).push(word),
  );
  try {
    let [read, told] = [0, performance.now()];
    const stream = file.stream().getReader();
    for (;;) {
      const { done, value } = await stream.read();
      if (done) break;
      reader.push(value);
      read += value.length;
      if (performance.now() - told < tellEveryMs) continue;
      told = performance.now();
      answer({ say: 'progress', share: read / file.size });
    }
    const missing = reader.end();
    const readings = builders.map((builder) => builder.end(reader.samples));
    const channel = readings.reduce(
      (best, one, at) => ((one?.words ?? 0) > (readings[best]?.words ?? 0) ? at : best),
      0,
    );
    const reading = readings[channel];
    const channels = reader.format?.channels ?? 1;
    if (reading) answer({ say: 'done', reading, channel, channels, sampleRate, missing });
    else answer({ say: 'nothing', fault: 'No linear time code is heard in it.', isWav });
  } catch (thrown) {
    const fault = thrown instanceof WavFault ? thrown.message : 'It cannot be read to its end.';
    answer({ say: 'nothing', fault, isWav });
  }
}

let live:
  | {
      readonly reader: LtcReader;
      readonly builder: timecode.ReadingBuilder;
      samples: number;
      words: number;
      toldAt: number;
    }
  | undefined;

function take({ sampleRate, samples, isLast }: Extract<SoundJob, { do: 'samples' }>): void {
  live ??= begin(sampleRate);
  live.reader.push(samples);
  live.samples += samples.length;
  if (!isLast) return;
  live.reader.end();
  const reading = live.builder.end(live.samples);
  if (reading) answer({ say: 'done', reading, channel: 0, channels: 1, sampleRate, missing: 0 });
  else answer({ say: 'nothing', fault: 'No linear time code was heard.', isWav: true });
  live = undefined;
}

function begin(sampleRate: number): NonNullable<typeof live> {
  const builder = new timecode.ReadingBuilder(sampleRate);
  const own: NonNullable<typeof live> = {
    ...{ builder, samples: 0, words: 0, toldAt: 0 },
    reader: new LtcReader(sampleRate, (word) => {
      builder.push(word);
      own.words += 1;
      // no faster than a screen can draw
      if (!word.time || performance.now() - own.toldAt < 30) return;
      own.toldAt = performance.now();
      answer({ say: 'now', time: word.time, words: own.words });
    }),
  };
  return own;
}
