/**
 * Who may work at one time: several of those that disturb nobody, or one of those that do. Whoever waits longest comes
 * first.
 */
export class Turns {
  private sharing = new Set<Promise<unknown>>();
  private alone: Promise<unknown> = Promise.resolve();

  /** Waits until nobody else works. */
  byItself<Result>(work: () => Promise<Result>): Promise<Result> {
    const others = Promise.allSettled([this.alone, ...this.sharing]);
    const mine = others.then(work);
    this.alone = mine.catch(() => undefined);
    return mine;
  }

  /** Works beside others that share, after whoever works alone. */
  beside<Result>(work: () => Promise<Result>): Promise<Result> {
    const mine = this.alone.then(work);
    const done = mine.catch(() => undefined).then(() => void this.sharing.delete(done));
    this.sharing.add(done);
    return mine;
  }
}
