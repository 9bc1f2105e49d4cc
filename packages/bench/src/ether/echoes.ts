import type { Scheduler } from './scheduler.ts';

/** Questions by number that are answered or given up after a wait. */
export class Echoes {
  private readonly open = new Map<number, () => void>();
  private nextId = 1;
  private readonly scheduler: Scheduler;

  constructor(scheduler: Scheduler) {
    this.scheduler = scheduler;
  }

  /** A new question; its answer is the time that it took in milliseconds, or undefined. */
  expect(waitMs: number): { readonly id: number; readonly answer: Promise<number | undefined> } {
    const id = (this.nextId = (this.nextId + 1) & 0xffff);
    const start = this.scheduler.now();
    const answer = new Promise<number | undefined>((done) => {
      const cancel = this.scheduler.after(waitMs, () => {
        this.open.delete(id);
        done(undefined);
      });
      this.open.set(id, () => {
        cancel();
        done(this.scheduler.now() - start);
      });
    });
    return { id, answer };
  }

  settle(id: number): void {
    this.open.get(id)?.();
    this.open.delete(id);
  }
}
