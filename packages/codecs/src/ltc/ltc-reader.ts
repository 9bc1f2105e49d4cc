import { BitClock } from './bit-clock.ts';
import { EdgeFinder } from './edge-finder.ts';
import { syncBackwards, syncForwards, timeOfWord, type LtcTime } from './ltc-word.ts';

/** One code word as it was heard. */
export interface HeardWord {
  /** Undefined where its digits are no time. */
  readonly time: LtcTime | undefined;
  readonly backwards: boolean;
  /** Where it begins and ends, in samples from the beginning of the sound. */
  readonly from: number;
  readonly until: number;
  /** Peak, where 1 is full scale. */
  readonly level: number;
}

/** The slowest that is read: a tenth of 24 frames a second, with a bit to spare. */
const slowestBits = 60;

/** Reads linear time code (SMPTE ST 12-1 section 9) out of samples, whatever its rate, speed, direction and polarity. */
export class LtcReader {
  private readonly edges: EdgeFinder;
  private readonly clock: BitClock;
  private samples = 0;
  private readonly bits = new Uint8Array(80);
  private readonly begins = new Float64Array(80);
  /** Bits since something was lost. */
  private count = 0;
  private recent = 0;
  /** Bits after which a word that is heard backwards is whole; it begins with its sync word. */
  private backwardsIn = 0;

  private readonly onWord: (word: HeardWord) => void;

  /** `sampleRate` in samples a second. */
  constructor(sampleRate: number, onWord: (word: HeardWord) => void) {
    this.onWord = onWord;
    this.clock = new BitClock(
      (bit, from, until) => this.bit(bit, from, until),
      () => this.lose(),
    );
    this.edges = new EdgeFinder(Math.ceil(sampleRate / slowestBits), (at) => this.clock.edge(at));
  }

  push(samples: Float32Array): void {
    this.edges.push(samples);
    this.samples += samples.length;
  }

  /** Nothing comes after this: the last word is told although nothing follows it. */
  end(): void {
    this.clock.end(this.samples);
  }

  private bit(bit: 0 | 1, from: number, until: number): void {
    const at = this.count % 80;
    this.bits[at] = bit;
    this.begins[at] = from;
    this.count += 1;
    this.recent = ((this.recent << 1) | bit) & 0xffff;
    if (this.backwardsIn > 0) {
      this.backwardsIn -= 1;
      if (this.backwardsIn === 0) this.tell(true, until);
    }
    if (this.recent === syncBackwards && this.count >= 16) this.backwardsIn = 64;
    else if (this.recent === syncForwards && this.count >= 80) this.tell(false, until);
  }

  private tell(backwards: boolean, until: number): void {
    const word = new Uint8Array(80);
    for (let bit = 0; bit < 80; bit += 1) word[bit] = this.bits[(this.count + bit) % 80] ?? 0;
    if (backwards) word.reverse();
    const from = this.begins[this.count % 80] ?? 0;
    this.onWord({ time: timeOfWord(word), backwards, from, until, level: this.edges.swing / 2 });
  }

  private lose(): void {
    this.count = 0;
    this.recent = 0;
    this.backwardsIn = 0;
  }
}
