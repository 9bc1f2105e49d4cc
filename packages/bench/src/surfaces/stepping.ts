import type { contract } from '@deep-patch/core';

/** Whoever moves the same thing within so long steps over the other one (milliseconds). */
const withinMs = 1000;
const mostKept = 500;

/** Notices when two controllers move one thing of a unit within a short time (need 8.21). */
export class Stepping {
  last: contract.SteppedState | null = null;
  private readonly moved = new Map<string, { readonly by: string; readonly at: number }>();

  /** `at` in milliseconds of simulated time. */
  note(by: string, targetId: string, command: string, at: number): void {
    const key = `${targetId} ${command}`;
    const before = this.moved.get(key);
    this.moved.delete(key);
    this.moved.set(key, { by, at });
    if (this.moved.size > mostKept) this.moved.delete(this.moved.keys().next().value ?? '');
    if (!before || before.by === by || at - before.at > withinMs) return;
    const apartMs = Math.round(at - before.at);
    this.last = { targetId, firstId: before.by, secondId: by, apartMs, at: Date.now() };
  }
}
