import type { contract } from '@deep-patch/core';

type State = contract.BenchState | null | undefined;

/** The bench tells by two ways, and an answer may be overtaken by news: an older state never replaces a newer one. */
export const newerOf = (before: State, next: State): State =>
  before && next && next.showId === before.showId && next.seq < before.seq ? before : next;
