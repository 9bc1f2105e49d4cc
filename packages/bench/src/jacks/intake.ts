/** So long others on the bench wait at most. */
const sliceMs = 4;
const perLook = 8;
const mostWaiting = 300_000;

/**
 * Takes things in faster than they can be worked on for a while: what arrives is only kept, and worked on in slices
 * between arrivals. Bounded: what comes on top of `mostWaiting` is dropped and counted.
 */
export class Intake<Item> {
  dropped = 0;
  private waiting: Item[] = [];
  private at = 0;
  private planned = false;
  private readonly work: (item: Item) => void;

  constructor(work: (item: Item) => void) {
    this.work = work;
  }

  take(item: Item): void {
    if (this.waiting.length - this.at >= mostWaiting) this.dropped += 1;
    else this.waiting.push(item);
    this.plan();
  }

  private plan(): void {
    if (this.planned) return;
    this.planned = true;
    setImmediate(() => {
      this.planned = false;
      this.slice();
    });
  }

  private slice(): void {
    const end = performance.now() + sliceMs;
    while (this.at < this.waiting.length) {
      for (let n = 0; n < perLook && this.at < this.waiting.length; n += 1) {
        const item = this.waiting[this.at] as Item;
        this.at += 1;
        this.work(item);
      }
      if (performance.now() >= end) break;
    }
    if (this.at < this.waiting.length) {
      // what is done is let go now and then, not one by one
      if (this.at > 4096) {
        this.waiting = this.waiting.slice(this.at);
        this.at = 0;
      }
      this.plan();
    } else {
      this.waiting = [];
      this.at = 0;
    }
  }
}
