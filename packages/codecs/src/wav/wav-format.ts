/** What a sound file says of its samples. */
export interface WavFormat {
  /** Samples a second, of each channel. */
  readonly sampleRate: number;
  readonly channels: number;
  /** How one sample is written: whole numbers (8 bits from 0 up, others with a sign), or IEEE 754. */
  readonly bits: 8 | 16 | 24 | 32 | 64;
  readonly isFloat: boolean;
  /** Samples of each channel that the file says it has; undefined where it does not know, as while it was still recorded. */
  readonly samples: number | undefined;
}

/** The most channels that are read. */
export const mostChannels = 64;

/** A file that cannot be read as sound, with what is wrong in words. */
export class WavFault extends Error {}
