import type { Adapter, Host } from './host.ts';

const firstIp = 0xa9fe0100;
const count = 254 * 256;
const [lowest, highest] = [firstIp, firstIp + count - 1];

/** Times of RFC 3927 section 9, in milliseconds. */
const probeWaitMs = 1000;
const probes = 3;
const [leastBetweenMs, mostBetweenMs] = [1000, 2000];
const announceWaitMs = 2000;
const defendIntervalMs = 10_000;
const mostConflicts = 10;
const rateLimitMs = 60_000;

/**
 * Gives an adapter an address of 169.254/16 that nobody has (RFC 3927): one that follows from its MAC address, probed
 * three times before use and announced twice, the next one if somebody answers or probes for it as well. One that it
 * remembers from before it tries first. In use it is defended once; who is contradicted again soon takes another.
 */
export class SelfAssignment {
  private readonly host: Host;
  private readonly adapter: Adapter;
  private seed: number;
  private running = 0;
  private conflicts = 0;
  private contradictedAt = -Infinity;

  constructor(host: Host, adapter: Adapter) {
    this.host = host;
    this.adapter = adapter;
    const digits = adapter.mac.replaceAll(':', '');
    this.seed = (parseInt(digits.slice(0, 6), 16) * 0x9e3779b1 + parseInt(digits.slice(6), 16)) >>> 0;
  }

  /** Fulfilled when it has an address, or was stopped. */
  async start(remembered: number | null): Promise<void> {
    this.running += 1;
    const run = this.running;
    let first = remembered !== null && remembered >= lowest && remembered <= highest ? remembered : undefined;
    await this.wait(this.dice() * probeWaitMs);
    while (this.running === run) {
      const ip = first ?? firstIp + Math.floor(this.dice() * count);
      first = undefined;
      if (!(await this.isFree(ip, run))) {
        this.conflicts += 1;
        if (this.conflicts >= mostConflicts) await this.wait(rateLimitMs);
        continue;
      }
      if (this.running === run) this.use(ip, run);
      return;
    }
  }

  stop(): void {
    this.running += 1;
    this.host.neighbours.unwatch(this.adapter);
  }

  /** Three probes at random distances, and a while after the last. */
  private async isFree(ip: number, run: number): Promise<boolean> {
    for (let probe = 1; probe <= probes; probe += 1) {
      const untilNext = leastBetweenMs + this.dice() * (mostBetweenMs - leastBetweenMs);
      const waitMs = probe === probes ? announceWaitMs : untilNext;
      if (await this.host.neighbours.isTaken(this.adapter, ip, waitMs)) return false;
      if (this.running !== run) return false;
    }
    return true;
  }

  private use(ip: number, run: number): void {
    const { adapter, host } = this;
    const fixed = adapter.addresses.filter(({ leased }) => !leased);
    adapter.addresses = [...fixed, { ip, prefix: 16, gateway: null, tag: null, leased: true }];
    host.neighbours.watch(adapter, ip, () => this.contradicted(run));
    host.neighbours.announce(adapter);
  }

  /** The first time the address was defended; a second time within the interval it is given up (section 2.5). */
  private contradicted(run: number): void {
    if (this.running !== run) return;
    const now = this.host.scheduler.now();
    const isAgain = now - this.contradictedAt < defendIntervalMs;
    this.contradictedAt = now;
    if (!isAgain) return;
    this.host.neighbours.unwatch(this.adapter);
    this.adapter.addresses = this.adapter.addresses.filter(({ leased }) => !leased);
    void this.start(null);
  }

  /** Numbers that follow from the MAC address, so that every run is alike (Numerical Recipes' constants). */
  private dice(): number {
    this.seed = (Math.imul(this.seed, 1_664_525) + 1_013_904_223) >>> 0;
    return this.seed / 2 ** 32;
  }

  private wait(ms: number): Promise<void> {
    return new Promise((done) => void this.host.scheduler.after(ms, done));
  }
}
