/**
 * One thing after the other for each name: while one runs, only the newest of those that come is kept, so that a fader
 * that moves faster than its target takes still ends where it was left.
 */
export class Lanes {
  private readonly running = new Set<string>();
  private readonly next = new Map<string, () => Promise<void>>();

  async run(name: string, work: () => Promise<void>): Promise<void> {
    if (this.running.has(name)) {
      this.next.set(name, work);
      return;
    }
    this.running.add(name);
    try {
      for (let now: (() => Promise<void>) | undefined = work; now; now = this.take(name))
        await now().catch(() => undefined);
    } finally {
      this.running.delete(name);
    }
  }

  private take(name: string): (() => Promise<void>) | undefined {
    const work = this.next.get(name);
    this.next.delete(name);
    return work;
  }
}
