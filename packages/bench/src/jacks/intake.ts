/** So long others on the bench wait at most. */
const sliceMs = 4;
/** So many messages pass between two looks at the clock. */
const perLook = 8;
const mostWaiting = 300_000;

/** Things that arrived together: how many messages each holds, and what works on the one at a place. */
export interface Batch {
  readonly weights: Uint32Array;
  readonly work: (at: number) => void;
}

/**
 * Takes things in faster than they can be worked on for a while: what arrives is only kept, and worked on in slices
 * between arrivals. Batches stay as they came, since a queue of single things would cost more than the work on them.
 * Bounded by messages: what comes on top of `mostWaiting` is dropped and counted, batch by batch.
 */
export class Intake {
  dropped = 0;
  private batches: Batch[] = [];
  /** Place within the first batch. */
  private at = 0;
  private waiting = 0;
  private planned = false;

  take(batch: Batch): void {
    let weight = 0;
    for (const each of batch.weights) weight += each;
    if (this.waiting + weight > mostWaiting) this.dropped += weight;
    else {
      this.batches.push(batch);
      this.waiting += weight;
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
      this.workOn(batch);
      if (this.at < batch.weights.length) continue;
      first += 1;
      this.at = 0;
    }
    this.batches.splice(0, first);
    if (this.batches.length > 0) this.plan();
  }

  private workOn(batch: Batch): void {
    for (let messages = 0; this.at < batch.weights.length && messages < perLook; this.at += 1) {
      const weight = batch.weights[this.at] ?? 1;
      messages += weight;
      this.waiting -= weight;
      batch.work(this.at);
    }
  }
}
