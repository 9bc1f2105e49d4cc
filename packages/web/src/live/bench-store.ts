import { useSyncExternalStore } from 'react';
import { contract } from '@deep-patch/core';
import { newerOf } from './newer-of.ts';

/**
 * The state of the bench that this tab knows, kept outside React: it changes several times a second, and a screen is only
 * drawn anew when the part of it changes that it shows. Undefined before anything is known, null while the bench starts.
 */
type State = contract.BenchState | null | undefined;

let state: State;
/** The show that this tab looks at; answers about another one come too late. */
let showId = '';
const listeners = new Set<() => void>();

function put(next: State): void {
  if (next === state) return;
  state = next;
  for (const listener of listeners) listener();
}

/** This show from now on: nothing is known of its bench yet. */
export function enterBench(id: string): void {
  showId = id;
  put(undefined);
}

/** A whole state, from an answer or from the live line; one that was overtaken changes nothing. */
export function takeBench(next: contract.BenchState | null): void {
  if (!next || next.showId === showId) put(newerOf(state, next));
}

/** What is new; false where it does not follow what is known, so that the whole has to be asked for. */
export function takeBenchDifference(difference: contract.BenchDifference): boolean {
  // an answer that came the other way may know it already
  if (!state || state.showId !== difference.showId) return false;
  if (difference.seq <= state.seq) return true;
  const next = contract.withDifference(state, difference);
  if (next) put(next);
  return next !== undefined;
}

const subscribe = (listener: () => void) => {
  listeners.add(listener);
  return () => void listeners.delete(listener);
};

/** One part of the state, which has to stay the same object as long as nothing changed in it. */
export const useBenchPart = <Part>(select: (known: State) => Part): Part =>
  useSyncExternalStore(subscribe, () => select(state));

export const useBenchState = (): State => useBenchPart((known) => known);

/** How many stand-ins work, of how many. */
export function useBenchCount(): { readonly up: number; readonly all: number } | null | undefined {
  const up = useBenchPart((known) => known?.standins.filter(({ status }) => status === 'up').length);
  const all = useBenchPart((known) => known?.standins.length);
  const isGone = useBenchPart((known) => known === null);
  return isGone ? null : up === undefined || all === undefined ? undefined : { up, all };
}
