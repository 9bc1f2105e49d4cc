import type { Show } from '@deep-patch/core';

/** What the bench is built from: the plan and the passwords in clear, which never leave the bench's process. */
export interface BenchPlan {
  readonly show: Show;
  readonly passwords: Readonly<Record<string, string>>;
}
