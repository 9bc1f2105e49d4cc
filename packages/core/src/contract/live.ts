import type { BenchDifference } from './bench-difference.ts';
import type { BenchState, TapNews } from './bench-state.ts';

/** What the server tells browser tabs, by topic. */
export type LiveMessage =
  /** From here on everything new is told; what was before has to be asked for. */
  | { readonly topic: 'joined'; readonly showId: string }
  | { readonly topic: 'revision'; readonly showId: string; readonly rev: number }
  /** The show was deleted. */
  | { readonly topic: 'gone'; readonly showId: string }
  | { readonly topic: 'presence'; readonly showId: string; readonly here: number }
  | { readonly topic: 'seen'; readonly showId: string }
  /** The whole state, to who joins; null when the bench ended. */
  | { readonly topic: 'bench'; readonly showId: string; readonly state: BenchState | null }
  | { readonly topic: 'bench-news'; readonly showId: string; readonly difference: BenchDifference }
  | { readonly topic: 'tap'; readonly showId: string; readonly news: TapNews }
  /** `full`: it is away since the disk has no room. */
  | { readonly topic: 'database'; readonly away: boolean; readonly full: boolean };
