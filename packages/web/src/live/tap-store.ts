import { useSyncExternalStore } from 'react';
import type { contract } from '@deep-patch/core';

const mostLines = 400;

/** What the tap told this tab: kept outside React, since it changes ten times a second. */
export interface TapView {
  readonly lines: readonly contract.HeardMessage[];
  readonly perSecond: number;
  readonly addresses: number;
  readonly lamps: contract.TapNews['lamps'];
}

const quiet: TapView = { lines: [], perSecond: 0, addresses: 0, lamps: { in: [], out: [] } };
let showId = '';
let view = quiet;
const listeners = new Set<() => void>();
let silence: ReturnType<typeof setTimeout> | undefined;

function put(next: TapView): void {
  view = next;
  for (const listener of listeners) listener();
}

/** Takes news in; lamps and rate go dark when nothing follows. */
export function takeTapNews(news: contract.TapNews): void {
  const before = news.showId === showId ? view.lines : [];
  showId = news.showId;
  const lines = [...before, ...news.lines];
  put({ ...news, lines: lines.slice(-mostLines) });
  clearTimeout(silence);
  silence = setTimeout(() => put({ ...view, perSecond: 0, lamps: quiet.lamps }), 700);
}

/** Starts with what the bench still knew when the screen opened. */
export function startTap(id: string, lines: readonly contract.HeardMessage[]): void {
  const known = showId === id ? view : quiet;
  const first = known.lines[0]?.at ?? Infinity;
  const older = lines.filter(({ at }) => at < first);
  if (showId === id && older.length === 0) return;
  showId = id;
  put({ ...known, lines: [...older, ...known.lines].slice(-mostLines) });
}

const subscribe = (listener: () => void) => {
  listeners.add(listener);
  return () => void listeners.delete(listener);
};

/** Whether a unit sent or took something in just now. */
export const useLamps = (id: string, deviceId: string): { readonly in: boolean; readonly out: boolean } => {
  const lit = (direction: 'in' | 'out') => showId === id && view.lamps[direction].includes(deviceId);
  return {
    in: useSyncExternalStore(subscribe, () => lit('in')),
    out: useSyncExternalStore(subscribe, () => lit('out')),
  };
};

export const useTap = (id: string): TapView => useSyncExternalStore(subscribe, () => (showId === id ? view : quiet));
