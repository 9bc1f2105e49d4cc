import { show as core, type Seen, type Show } from '@deep-patch/core';
import { useQuery } from '@tanstack/react-query';
import { api } from './api.ts';
import { ownAuthor } from './identity.ts';
import { historyKey, seenKey, showKey } from './snapshot.ts';

export interface History {
  readonly undo: string | null;
  readonly redo: string | null;
}
const noHistory: History = { undo: null, redo: null };

/** The show, what was seen of it, and what could be taken back; news of them comes by the socket, not by age. */
export function useServerData(showId: string) {
  const show = useQuery({
    queryKey: showKey(showId),
    queryFn: () => api.get<Show>(`/shows/${showId}`),
    staleTime: Infinity,
    // a change keeps all rows that it does not touch as they are; comparing thousands with themselves tells nothing
    structuralSharing: false,
  });
  const seen = useQuery({
    queryKey: seenKey(showId),
    queryFn: () => api.get<Seen>(`/shows/${showId}/seen`),
    staleTime: Infinity,
  });
  const history = useQuery({
    queryKey: historyKey(showId),
    queryFn: () => api.get<History>(`/shows/${showId}/history?author=${ownAuthor()}`),
    staleTime: Infinity,
  });
  return { show, seen: seen.data ?? core.nothingSeen, history: history.data ?? noHistory };
}
