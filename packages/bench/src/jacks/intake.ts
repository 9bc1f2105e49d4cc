/** So long others on the bench wait at most. */
const sliceMs = 4;
const perLook = 8;
const mostWaiting = 300_000;

/** Things that arrived together: how many, and what works on the one at a place. */
export interface Batch {
  readonly count: number;
  readonly work: (at: number) => void;
}

/**
 * Takes things in faster than they can be worked on for a while: what arrives is only kept, and worked on in slices
 * between arrivals. Batches stay as they came, since a queue of single things would cost more than the work on them.
 * Bounded: what comes on top of `mostWaiting` is dropped and counted, batch by batch.
 */
export class Intake {
  dropped = 0;
  private batches: Batch[] = [];
  /** Place within the first batch. */
  private at = 0;
  private waiting = 0;
  private planned = false;

  take(batch: Batch): void {
    if (this.waiting + batch.count > mostWaiting) this.dropped += batch.count;
    else {
      this.batches.push(batch);
      this.waiting += batch.count;
    }
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
    let first = 0;
    for (let batch = this.batches[first]; batch && performance.now() < end; batch = this.batches[first]) {
      const until = Math.min(batch.count, this.at + perLook);
      this.waiting -= until - this.at;
      for (; this.at < until; this.at += 1) batch.work(this.at);
      if (until < batch.count) continue;
      first += 1;
      this.at = 0;
    }
    this.batches.splice(0, first);
    if (this.batches.length > 0) this.plan();
  }
}
