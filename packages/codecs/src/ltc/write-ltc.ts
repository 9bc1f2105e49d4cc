import { wordOf, type LtcTime } from './ltc-word.ts';

/** How linear time code is to sound. */
export interface LtcShape {
  /** Samples a second. */
  readonly sampleRate: number;
  /** Code words a second as they are heard: the frame rate, times the speed at which it is played. */
  readonly wordsPerSecond: number;
  /** Peak, where 1 is full scale. */
  readonly level: number;
  /** From 10 to 90 % of a transition, in seconds; ST 12-1 section 9.3.3 asks for 40 µs ± 10. */
  readonly riseTime: number;
  /** Frames of 25 a second keep the polarity bit in another place. */
  readonly isAt25: boolean;
  readonly backwards?: boolean;
}

/** A raised cosine takes 0.59 of its length from 10 to 90 %: (acos(-0.8) - acos(0.8)) / π. */
const shareOfRise = (Math.acos(-0.8) - Math.acos(0.8)) / Math.PI;

/**
 * Writes code words as biphase mark (SMPTE ST 12-1 section 9.3): a transition where each bit begins, and one in the
 * middle of every one. Edges stand where the clock says, between samples too, however long it runs.
 */
export class LtcWriter {
  private readonly perHalf: number;
  private readonly rise: number;
  /** Halves of bits that were written, and samples. */
  private halves = 0;
  private samples = 0;
  private sign = 1;
  /** Edges that are not wholly past: where, and the sign after them. */
  private edges: { at: number; sign: number }[] = [];

  private readonly shape: LtcShape;

  constructor(shape: LtcShape) {
    this.shape = shape;
    this.perHalf = shape.sampleRate / shape.wordsPerSecond / 160;
    // without any it is as steep as samples can tell
    this.rise = Math.max(1e-6, Math.min((shape.riseTime * shape.sampleRate) / shareOfRise, this.perHalf));
  }

  /** The samples of one more code word, up to where the next one begins. */
  word(time: LtcTime): Float32Array {
    const bits = wordOf(time, this.shape.isAt25);
    if (this.shape.backwards) bits.reverse();
    for (const bit of bits) {
      this.edge(this.halves);
      if (bit === 1) this.edge(this.halves + 1);
      this.halves += 2;
    }
    return this.upTo(Math.floor(this.halves * this.perHalf - this.rise / 2));
  }

  /** The edge that ends the last word, and half a bit more, so that whoever reads it hears it end. */
  end(): Float32Array {
    this.edge(this.halves);
    return this.upTo(Math.ceil((this.halves + 1) * this.perHalf));
  }

  private edge(half: number): void {
    this.edges.push({ at: half * this.perHalf, sign: (this.sign = -this.sign) });
  }

  private upTo(last: number): Float32Array {
    const out = new Float32Array(Math.max(0, last - this.samples));
    let next = 0;
    for (let n = 0; n < out.length; n += 1) {
      const at = this.samples + n;
      while (next < this.edges.length && (this.edges[next]?.at ?? 0) + this.rise / 2 <= at) next += 1;
      const edge = this.edges[next];
      const before = edge ? -edge.sign : this.sign;
      const within = edge ? (at - edge.at) / this.rise + 0.5 : 0;
      out[n] = this.shape.level * before * (within > 0 ? Math.cos(Math.PI * within) : 1);
    }
    this.samples += out.length;
    this.edges.splice(0, next);
    return out;
  }
}
