/** How far beyond the middle a sample must be to count, as a share of half the swing: noise around it stays below. */
const hysteresis = 0.3;
/** Anything quieter is silence: -60 dB of full scale, from peak to peak. */
const quietest = 0.002;
/** A peak this much further than what was measured moves the middle at once. */
const growth = 1.05;

/**
 * Finds where a signal goes from low to high and back. Its middle, and how loud it is, follow from the last two peaks,
 * so that a DC offset, hum, and a level that changes do not matter.
 */
export class EdgeFinder {
  /** On which side of the middle the signal is; 0 while it is silent. */
  private sign = 0;
  /** The furthest that it went on this side since the last edge, and on the other side before that. */
  private peak = 0;
  private before = 0;
  /** Beyond it, the signal is on the other side. */
  private threshold = 0;
  private sinceEdge = 0;
  // before the first sample there was silence: a signal that begins at once begins with an edge
  private least = 0;
  private greatest = 0;
  private isQuiet = true;
  /** Where the signal was before it began, until its first edge. */
  private rest: number | undefined;
  private last = 0;
  /** Samples before those that are looked at. */
  private position = 0;
  /** From peak to peak, as it was at the last edge. */
  swing = 0;

  private readonly patience: number;
  private readonly onEdge: (at: number) => void;

  /**
   * `onEdge` is told the place in samples from the beginning, between samples too. `patience`: samples after which
   * the signal is measured anew if no edge comes.
   */
  constructor(patience: number, onEdge: (at: number) => void) {
    this.patience = patience;
    this.onEdge = onEdge;
  }

  push(samples: Float32Array): void {
    for (let at = 0; at < samples.length;) {
      const until = Math.min(samples.length, at + this.patience - this.sinceEdge);
      at = this.sign === 0 ? this.measure(samples, at, until) : this.follow(samples, at, until);
      if (this.sinceEdge >= this.patience) this.startAnew();
    }
    this.position += samples.length;
    this.last = samples[samples.length - 1] ?? this.last;
  }

  /** Waits until there is a signal at all. */
  private measure(samples: Float32Array, from: number, until: number): number {
    for (let at = from; at < until; at += 1) {
      const value = samples[at] ?? 0;
      if (value < this.least) this.least = value;
      if (value > this.greatest) this.greatest = value;
      if (this.greatest - this.least < quietest) continue;
      this.sign = value > (this.least + this.greatest) / 2 ? 1 : -1;
      this.peak = value;
      this.before = this.sign > 0 ? this.least : this.greatest;
      this.rest = this.isQuiet ? this.before : undefined;
      this.grow();
      this.sinceEdge = 1;
      this.onEdge(this.position + at);
      return at + 1;
    }
    this.sinceEdge += until - from;
    return until;
  }

  /** The loop that every sample goes through, up to the next edge. */
  private follow(samples: Float32Array, from: number, until: number): number {
    const { sign } = this;
    let peak = this.peak * sign;
    let threshold = this.threshold * sign;
    let far = (this.before + sign * this.swing * growth) * sign;
    for (let at = from; at < until; at += 1) {
      const value = (samples[at] ?? 0) * sign;
      if (value > peak) {
        peak = value;
        if (peak <= far) continue;
        this.peak = peak * sign;
        this.grow();
        threshold = this.threshold * sign;
        far = (this.before + sign * this.swing * growth) * sign;
      } else if (value < threshold) {
        const last = (at > 0 ? (samples[at - 1] ?? 0) : this.last) * sign;
        this.turn(peak * sign, value * sign);
        this.sinceEdge = 1;
        // the sample before may have been beyond another threshold, while the level grew
        const share = last > threshold ? (last - threshold) / (last - value) : 1;
        this.onEdge(this.position + at - 1 + share);
        return at + 1;
      }
    }
    this.peak = peak * sign;
    this.sinceEdge += until - from;
    return until;
  }

  private turn(peak: number, value: number): void {
    this.swing = Math.abs(peak - this.before);
    this.before = peak;
    this.rest = undefined;
    this.isQuiet = false;
    this.sign = -this.sign;
    this.peak = value;
    this.aim(peak + this.sign * this.swing);
  }

  private grow(): void {
    // out of silence it goes as far to one side as to the other
    if (this.rest !== undefined) this.before = 2 * this.rest - this.peak;
    this.swing = Math.abs(this.peak - this.before);
    this.aim(this.peak);
  }

  /** `peak`: the one of this side, as it is or as it was last time. */
  private aim(peak: number): void {
    this.threshold = (this.before + peak) / 2 - (this.sign * hysteresis * this.swing) / 2;
  }

  private startAnew(): void {
    // without an edge it was a level that does not change, or it was silent all the time
    this.isQuiet = this.sign === 0;
    this.sign = 0;
    this.sinceEdge = 0;
    this.least = Infinity;
    this.greatest = -Infinity;
  }
}
