import type { contract } from '@deep-patch/core';
import { useQueryClient, type QueryClient } from '@tanstack/react-query';
import { useEffect, useState } from 'react';
import { api } from './api.ts';
import { enterBench, takeBench, takeBenchDifference } from './bench-store.ts';
import { nothing } from './nothing.ts';
import { useNotices } from './notices.tsx';
import { catchUp, seeAnew, showKey } from './snapshot.ts';
import { openSocket, type Connection } from './socket.ts';
import { takeTapNews } from './tap-store.ts';

/** `full`: it ended since the disk has no room. */
export type DatabaseAway = 'no' | 'away' | 'full';

/** Listens to what the server tells of a show for as long as it is on screen, and hands it on to who keeps it. */
export function useLive(showId: string) {
  const client = useQueryClient();
  const { tell } = useNotices();
  const [connection, setConnection] = useState<Connection>('connecting');
  const [databaseAway, setDatabaseAway] = useState<DatabaseAway>('no');
  const [here, setHere] = useState(1);
  useEffect(() => {
    let wasLost = false;
    let wasAway = false;
    const refresh = () => Promise.all([catchUp(client, showId), seeAnew(client, showId)]);
    enterBench(showId);
    return openSocket(showId, {
      connection: (state) => {
        setConnection(state);
        if (state === 'lost') wasLost = true;
      },
      message: (message) => {
        if (message.topic === 'joined') {
          // what happened before the line stood, or while it was down
          const again = wasLost;
          wasLost = false;
          refresh().then(() => again && tell({ text: 'Connected again. The plan is up to date.' }), nothing);
        } else if (message.topic === 'presence') setHere(message.here);
        else if (message.topic === 'database') {
          setDatabaseAway(message.away ? (message.full ? 'full' : 'away') : 'no');
          if (wasAway && !message.away) tell({ text: 'The database answers again.' });
          wasAway = message.away;
          if (!message.away) refresh().catch(nothing);
        } else takeNews(client, showId, message);
      },
    });
  }, [client, showId, tell]);
  return { connection, databaseAway, here };
}

type News = Exclude<contract.LiveMessage, { readonly topic: 'joined' | 'presence' | 'database' }>;

/** News of the show, of what was seen of it and of its bench. */
function takeNews(client: QueryClient, showId: string, message: News): void {
  if (message.topic === 'revision') catchUp(client, showId, message.rev).catch(nothing);
  // somebody deleted it: what the server says now stands instead
  else if (message.topic === 'gone') client.resetQueries({ queryKey: showKey(showId) }).catch(nothing);
  else if (message.topic === 'seen') seeAnew(client, showId).catch(nothing);
  else if (message.topic === 'bench') takeBench(message.state);
  else if (message.topic === 'tap') takeTapNews(message.news);
  else if (!takeBenchDifference(message.difference))
    api.get<contract.BenchState>(`/bench/${showId}`).then(takeBench, nothing);
}
