import { show as core, type Change, type Show } from '@deep-patch/core';
import type { QueryClient, QueryKey } from '@tanstack/react-query';
import { api } from './api.ts';
import { nothing } from './nothing.ts';

export const showKey = (showId: string) => ['show', showId] as const;
export const seenKey = (showId: string) => ['seen', showId] as const;
export const historyKey = (showId: string) => ['history', showId] as const;

export interface Logged extends Change {
  readonly rev: number;
}

/**
 * Asks anew. A first question still under way may have been answered before the news that this one follows, and would be
 * taken for its answer: it is waited for.
 */
async function askAnew(client: QueryClient, queryKey: QueryKey): Promise<void> {
  await underWay(client, queryKey);
  await client.invalidateQueries({ queryKey });
}

const underWay = (client: QueryClient, queryKey: QueryKey): Promise<unknown> =>
  client.getQueryCache().find({ queryKey })?.promise?.catch(nothing) ?? Promise.resolve();

/** What others saw of the rig. */
export const seeAnew = (client: QueryClient, showId: string): Promise<void> => askAnew(client, seenKey(showId));

/** Takes in what the server has just saved; where others were quicker, with what they did. */
export async function takeSaved(client: QueryClient, showId: string, saved: Logged | undefined): Promise<void> {
  const key = showKey(showId);
  if (saved && client.getQueryData<Show>(key)?.rev === saved.rev - 1) {
    client.setQueryData<Show>(key, (held) => held && applied(held, [saved]));
    await askAnew(client, historyKey(showId));
  } else await catchUp(client, showId);
}

/**
 * Brings the snapshot to the server's revision, or to that of the news: change by change where that is the shorter way,
 * else whole.
 */
export async function catchUp(client: QueryClient, showId: string, to = Infinity): Promise<void> {
  const key = showKey(showId);
  if (!client.getQueryData<Show>(key)) await underWay(client, key);
  const now = client.getQueryData<Show>(key);
  if (!now) {
    await client.invalidateQueries({ queryKey: key });
    return;
  }
  if (now.rev >= to) return;
  const { changes } = await api.get<{ changes: Logged[] | null }>(`/shows/${showId}/changes?since=${now.rev}`);
  if (!changes) {
    await client.invalidateQueries({ queryKey: key });
    return;
  }
  // looked up again: another catch-up may have been quicker
  client.setQueryData<Show>(key, (held) => held && applied(held, changes));
  await askAnew(client, historyKey(showId));
}

const applied = (show: Show, changes: readonly Logged[]): Show =>
  changes.reduce((at, change) => (change.rev === at.rev + 1 ? core.written(at, change, change.rev) : at), show);
