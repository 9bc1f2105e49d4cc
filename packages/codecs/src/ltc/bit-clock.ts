/** How many intervals are looked at before the length of a bit is told from them. */
const enough = 48;
/** With fewer nothing is said. */
const least = 24;
/** Halves and wholes of bits are 1 to 2; a little more for what makes them uneven. */
const uneven = 4;
/** The most that intervals may be off, in halves of a bit, root mean square. */
const tolerated = 0.22;
/** How strongly an edge pulls the clock's place and its pace. */
const pull = { place: 0.4, pace: 0.04 };

/**
 * Reads bits out of edges of biphase mark: a clock in halves of a bit follows them, at any speed and while the speed
 * changes. Edges from before the clock was sure are read once it is.
 */
export class BitClock {
  /** Half a bit, in samples; 0 while it is not known. */
  private half = 0;
  /** Where the clock has the last edge, and where the bit under way began. */
  private place = 0;
  private began = 0;
  private isInside = false;
  private waiting: number[] = [];

  private readonly onBit: (bit: 0 | 1, from: number, until: number) => void;
  private readonly onLost: () => void;

  /** `onBit`: the bit, and where it begins; `onLost`: the next bit does not follow the last one. */
  constructor(onBit: (bit: 0 | 1, from: number, until: number) => void, onLost: () => void) {
    this.onBit = onBit;
    this.onLost = onLost;
  }

  edge(at: number): void {
    if (this.half > 0) this.follow(at);
    else if (this.waiting.push(at) > enough) this.tune();
  }

  /** The sound is over at this sample: a bit that lacks its last edge only is whole. */
  end(at: number): void {
    if (this.half === 0) this.tune();
    if (this.half > 0) this.close(at);
  }

  /** Where nothing more comes in time, the bit under way ends all the same. */
  private close(at: number): void {
    const halves = this.isInside ? 1 : 2;
    const due = this.place + halves * this.half;
    if (at > due - this.half / 2) this.keepTime(due, halves);
  }

  private follow(at: number): void {
    const halves = Math.round((at - this.place) / this.half);
    if (halves === 1 || halves === 2) this.keepTime(at, halves);
    else this.lose(at);
  }

  private keepTime(at: number, halves: 1 | 2): void {
    const expected = this.place + halves * this.half;
    const off = at - expected;
    this.place = expected + off * pull.place;
    this.half += (off * pull.pace) / halves;
    if (halves === 2) {
      // half a one before a zero cannot be: the pair began elsewhere
      if (this.isInside) this.onLost();
      this.onBit(0, this.isInside ? expected - 2 * this.half : this.began, this.place);
      this.begin();
    } else if (this.isInside) {
      this.onBit(1, this.began, this.place);
      this.begin();
    } else this.isInside = true;
  }

  private begin(): void {
    this.began = this.place;
    this.isInside = false;
  }

  private lose(at: number): void {
    // a word may have been whole before it went silent
    if (at - this.place > 2.5 * this.half) this.close(at);
    this.half = 0;
    this.waiting = [at];
    this.onLost();
  }

  /** Tells the clock's pace from what waits, and reads it; where it cannot, the older half is given up. */
  private tune(): void {
    const edges = evenEnd(this.waiting);
    this.waiting = edges;
    if (edges.length < least) return;
    const gaps = edges.slice(1).map((at, n) => at - (edges[n] ?? 0));
    const half = halfOf(gaps);
    if (half === undefined) {
      this.waiting = edges.slice(enough / 2);
      return;
    }
    this.waiting = [];
    this.half = half;
    // a sound that begins in a bit without an edge inside: that bit is a zero, wherever its beginning was
    if ((gaps[0] ?? 0) > 2.5 * half) edges[0] = (edges[1] ?? 0) - 2 * half;
    // pairs of halves end where a whole bit begins
    const first = gaps.findIndex((gap) => gap > 1.5 * half);
    const [start = 0, ...rest] = edges.slice(first % 2);
    this.place = start;
    this.begin();
    for (const at of rest) this.edge(at);
  }
}

/** Edges at the end between which no gap is more than so many times another: what comes before them is noise. */
function evenEnd(edges: readonly number[]): number[] {
  let [shortest, longest] = [Infinity, 0];
  for (let at = edges.length - 1; at > 0; at -= 1) {
    const gap = (edges[at] ?? 0) - (edges[at - 1] ?? 0);
    shortest = Math.min(shortest, gap);
    longest = Math.max(longest, gap);
    if (longest > uneven * shortest) return edges.slice(at);
  }
  return edges.slice();
}

/** The length of half a bit that fits these gaps best; undefined where none does, or where all are alike. */
function halfOf(gaps: readonly number[]): number | undefined {
  const middle = [...gaps].sort((a, b) => a - b)[gaps.length >> 1] ?? 0;
  let best = { half: 0, off: Infinity };
  // the middle one is a half or a whole
  for (let half = middle * 0.42; half < middle * 1.15; half *= 1.02) {
    let off = 0;
    for (const gap of gaps) off += (gap / half - (gap > 1.5 * half ? 2 : 1)) ** 2;
    if (off < best.off) best = { half, off };
  }
  if (!(Math.sqrt(best.off / gaps.length) <= tolerated)) return undefined;
  const wholes = gaps.filter((gap) => gap > 1.5 * best.half).length;
  if (wholes < 6 || gaps.length - wholes < 6) return undefined;
  return gaps.reduce((sum, gap) => sum + gap, 0) / (gaps.length + wholes);
}
