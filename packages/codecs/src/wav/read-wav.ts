import { mostChannels, WavFault, type WavFormat } from './wav-format.ts';

/** Format tags (RIFF, "Multimedia Programming Interface and Data Specifications 1.0"; mmreg.h for the extensible one). */
const tags = { pcm: 1, float: 3, extensible: 0xfffe } as const;
/** A size that says that another place has it (EBU Tech 3306), or that nobody knew it yet. */
const unknownSize = 0xffff_ffff;
/** So many samples at once stay near the processor while they are looked at. */
const mostAtOnce = 8192;
/** The most bytes that one chunk before the samples may have and is kept for. */
const mostKept = 4096;

/** What to do with the sound that is read. */
export interface WavTaker {
  readonly format: (format: WavFormat) => void;
  /** The next samples of each channel, where 1 is full scale; the arrays are written anew afterwards. */
  readonly samples: (channels: readonly Float32Array[]) => void;
}

/**
 * Reads a WAV file piece by piece (RIFF, and RF64 after EBU Tech 3306), whatever the pieces. Throws a `WavFault` where it
 * is none. A file that ends before its time is read as far as it goes.
 */
export class WavReader {
  private kept = new Uint8Array(0);
  private state: 'head' | 'chunk' | 'samples' | 'skip' | 'over' = 'head';
  /** Bytes of the chunk under way that are still to come. */
  private left = 0;
  private isRf64 = false;
  private longData: number | undefined;
  private format: WavFormat | undefined;
  private read = 0;
  private blocks: Float32Array[] = [];

  private readonly taker: WavTaker;

  constructor(taker: WavTaker) {
    this.taker = taker;
  }

  push(bytes: Uint8Array): void {
    let rest = this.kept.length === 0 ? bytes : joined(this.kept, bytes);
    for (let taken = -1; taken !== 0 && this.state !== 'over';) {
      taken = this.take(rest);
      rest = rest.subarray(taken);
    }
    this.kept = this.state === 'over' ? new Uint8Array(0) : rest.slice();
  }

  /** The file is over. Says how much was missing, in samples of each channel; 0 where it is whole. */
  end(): number {
    if (!this.format)
      throw new WavFault(this.state === 'head' ? notRiff : 'It ends before it says what its samples are.');
    if (this.state !== 'samples' && this.state !== 'over' && this.read === 0) throw new WavFault('It has no samples.');
    return this.format.samples === undefined ? 0 : Math.max(0, this.format.samples - this.read);
  }

  private take(bytes: Uint8Array): number {
    switch (this.state) {
      case 'head':
        return this.head(bytes);
      case 'chunk':
        return this.chunk(bytes);
      case 'skip':
        return this.skip(bytes);
      case 'samples':
        return this.samples(bytes);
      case 'over':
        return 0;
    }
  }

  private head(bytes: Uint8Array): number {
    if (bytes.length < 12) return 0;
    const kind = text(bytes, 0);
    this.isRf64 = kind === 'RF64' || kind === 'BW64';
    if ((kind !== 'RIFF' && !this.isRf64) || text(bytes, 8) !== 'WAVE') throw new WavFault(notRiff);
    this.state = 'chunk';
    return 12;
  }

  private chunk(bytes: Uint8Array): number {
    if (bytes.length < 8) return 0;
    const view = viewOf(bytes);
    const name = text(bytes, 0);
    const size = view.getUint32(4, true);
    if (name === 'data') return this.startSamples(size);
    if (name !== 'fmt ' && name !== 'ds64') {
      this.left = size + (size % 2);
      this.state = 'skip';
      return 8;
    }
    if (size > mostKept) throw new WavFault(`Its part “${name.trim()}” is ${size} bytes long, which cannot be.`);
    const whole = 8 + size + (size % 2);
    if (bytes.length < whole) return 0;
    if (name === 'fmt ') this.format = formatOf(bytes.subarray(8, 8 + size));
    else if (size >= 24) this.longData = Number(view.getBigUint64(16, true));
    return whole;
  }

  private startSamples(size: number): number {
    const { format } = this;
    if (!format) throw new WavFault('Its samples come before what they are: there is no “fmt” part.');
    const bytes = this.isRf64 && size === unknownSize ? this.longData : size;
    // a recorder writes how much there is when it stops: nothing, or as much as can be, is not known yet
    const isKnown = bytes !== undefined && bytes !== 0 && bytes !== unknownSize && Number.isSafeInteger(bytes);
    this.left = isKnown ? bytes : Infinity;
    const samples = isKnown ? Math.floor(bytes / bytesAcross(format)) : undefined;
    this.format = { ...format, samples };
    this.taker.format(this.format);
    this.state = 'samples';
    return 8;
  }

  private skip(bytes: Uint8Array): number {
    const taken = Math.min(this.left, bytes.length);
    this.left -= taken;
    if (this.left === 0) this.state = 'chunk';
    return taken;
  }

  private samples(bytes: Uint8Array): number {
    const { format } = this;
    if (!format) return 0;
    const across = bytesAcross(format);
    const count = Math.min(mostAtOnce, Math.floor(Math.min(bytes.length, this.left) / across));
    if (count > 0) {
      if ((this.blocks[0]?.length ?? 0) < count)
        this.blocks = Array.from({ length: format.channels }, () => new Float32Array(count));
      const read = bytes.subarray(0, count * across);
      this.blocks.forEach((block, channel) => take(read, format, channel, block));
      this.taker.samples(this.blocks.map((block) => block.subarray(0, count)));
      this.read += count;
      this.left -= count * across;
    }
    if (this.left < across) this.state = 'over';
    return count * across;
  }
}

const notRiff = 'It is no WAV file: it does not begin as one.';

const bytesAcross = ({ channels, bits }: WavFormat): number => (channels * bits) / 8;

function formatOf(bytes: Uint8Array): WavFormat {
  if (bytes.length < 16) throw new WavFault('What it says of its samples is too short.');
  const view = viewOf(bytes);
  const first = view.getUint16(0, true);
  const tag = first === tags.extensible && bytes.length >= 26 ? view.getUint16(24, true) : first;
  const [channels, sampleRate, bits] = [view.getUint16(2, true), view.getUint32(4, true), view.getUint16(14, true)];
  if (tag !== tags.pcm && tag !== tags.float)
    throw new WavFault(`Its samples are packed in a way that is not read here (format ${tag}). Save it as PCM.`);
  const fits = tag === tags.float ? bits === 32 || bits === 64 : [8, 16, 24, 32].includes(bits);
  if (!fits) throw new WavFault(`Its samples have ${bits} bits, which is not read here. Save it with 16 or 24.`);
  if (channels < 1 || channels > mostChannels) throw new WavFault(`It says that it has ${channels} channels.`);
  if (sampleRate < 8000 || sampleRate > 768_000)
    throw new WavFault(`It says that it has ${sampleRate} samples a second.`);
  return { sampleRate, channels, bits: bits as WavFormat['bits'], isFloat: tag === tags.float, samples: undefined };
}

const step16 = 1 / 32_768;

/** By far the most usual kind, in a loop of its own that stays simple enough to be fast. */
function take16(whole: Int16Array, channels: number, channel: number, into: Float32Array): void {
  const count = Math.min(into.length, Math.floor(whole.length / channels));
  if (channels === 1) for (let n = 0; n < count; n += 1) into[n] = (whole[n] ?? 0) * step16;
  else for (let n = 0; n < count; n += 1) into[n] = (whole[n * channels + channel] ?? 0) * step16;
}

/** One channel out of the bytes, in the loop for its kind of sample. */
function take(bytes: Uint8Array, { bits, isFloat, channels }: WavFormat, channel: number, into: Float32Array): void {
  const width = bits / 8;
  const across = channels * width;
  const count = bytes.length / across;
  if (bits === 16 && bytes.byteOffset % 2 === 0) {
    take16(new Int16Array(bytes.buffer, bytes.byteOffset, bytes.length / 2), channels, channel, into);
    return;
  }
  const view = viewOf(bytes);
  let at = channel * width;
  const read: Record<string, () => number> = {
    8: () => ((bytes[at] ?? 0) - 128) / 128,
    16: () => view.getInt16(at, true) / 32_768,
    24: () => (view.getInt16(at + 1, true) * 256 + (bytes[at] ?? 0)) / 8_388_608,
    32: () => (isFloat ? real(view.getFloat32(at, true)) : view.getInt32(at, true) / 2_147_483_648),
    64: () => real(view.getFloat64(at, true)),
  };
  const one = read[bits] ?? (() => 0);
  for (let n = 0; n < count; n += 1, at += across) into[n] = one();
}

/** What is no number is silence: one such sample would spoil whatever is reckoned from it. */
const real = (value: number): number => (Math.abs(value) < 1e6 ? value : 0);

const viewOf = (bytes: Uint8Array): DataView => new DataView(bytes.buffer, bytes.byteOffset, bytes.byteLength);
const text = (bytes: Uint8Array, at: number): string => String.fromCharCode(...bytes.subarray(at, at + 4));

function joined(a: Uint8Array, b: Uint8Array): Uint8Array<ArrayBuffer> {
  const both = new Uint8Array(a.length + b.length);
  both.set(a);
  both.set(b, a.length);
  return both;
}
