import { show as core, type Change, type Show } from '@deep-patch/core';
import type { QueryClient } from '@tanstack/react-query';
import { api } from './api.ts';

export const showKey = (showId: string) => ['show', showId] as const;
export const seenKey = (showId: string) => ['seen', showId] as const;
export const historyKey = (showId: string) => ['history', showId] as const;

interface Logged extends Change {
  readonly rev: number;
}

/** Brings the snapshot to the server's revision: change by change where that is the shorter way, else whole. */
export async function catchUp(client: QueryClient, showId: string): Promise<void> {
  const now = client.getQueryData<Show>(showKey(showId));
  if (!now) {
    await client.invalidateQueries({ queryKey: showKey(showId) });
    return;
  }
  const { changes } = await api.get<{ changes: Logged[] | null }>(`/shows/${showId}/changes?since=${now.rev}`);
  if (!changes) {
    await client.invalidateQueries({ queryKey: showKey(showId) });
    return;
  }
  // looked up again: another catch-up may have been quicker
  client.setQueryData<Show>(showKey(showId), (held) => held && applied(held, changes));
  await client.invalidateQueries({ queryKey: historyKey(showId) });
}

const applied = (show: Show, changes: readonly Logged[]): Show =>
  changes.reduce((at, change) => (change.rev === at.rev + 1 ? core.written(at, change, change.rev) : at), show);
