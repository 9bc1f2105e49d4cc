import { WavReader } from '../wav/read-wav.ts';
import type { WavFormat } from '../wav/wav-format.ts';
import { LtcReader, type HeardWord } from './ltc-reader.ts';

/** The most channels of one file that are listened to. */
const mostHeard = 8;

/** Reads linear time code out of a WAV file piece by piece, on every channel or on the one that is asked for. */
export class LtcWavReader {
  format: WavFormat | undefined;
  /** Samples of each channel so far. */
  samples = 0;
  private readers: (LtcReader | undefined)[] = [];
  private readonly wav: WavReader;

  /** Channels count from 0. `onFormat` is told before the first word; both may throw to refuse. */
  constructor(
    onFormat: (format: WavFormat) => void,
    onWord: (channel: number, word: HeardWord) => void,
    channel?: number,
  ) {
    this.wav = new WavReader({
      format: (format) => {
        this.format = format;
        onFormat(format);
        this.readers = Array.from(
          { length: Math.min(format.channels, channel === undefined ? mostHeard : Infinity) },
          (_, at) =>
            channel === undefined || channel === at
              ? new LtcReader(format.sampleRate, (word) => onWord(at, word))
              : undefined,
        );
      },
      samples: (channels) => {
        this.samples += channels[0]?.length ?? 0;
        channels.forEach((block, at) => this.readers[at]?.push(block));
      },
    });
  }

  push(bytes: Uint8Array): void {
    this.wav.push(bytes);
  }

  /** The file is over: says how many samples of each channel were missing at its end. */
  end(): number {
    const missing = this.wav.end();
    for (const reader of this.readers) reader?.end();
    return missing;
  }
}
