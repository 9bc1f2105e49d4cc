import { createContext, use, useCallback, useEffect, useMemo, useRef, useState, type ReactNode } from 'react';
import { nothing } from './nothing.ts';
import {
  type contract,
  show as core,
  type Analysis,
  type Change,
  type Conflict,
  type Seen,
  type Show,
} from '@deep-patch/core';
import { useQuery, useQueryClient } from '@tanstack/react-query';
import { api, asProblem, Problem } from './api.ts';
import { newId, ownAuthor } from './identity.ts';
import { enterBench, takeBench, takeBenchDifference } from './bench-store.ts';
import { useNotices } from './notices.tsx';
import { takeTapNews } from './tap-store.ts';
import { catchUp, historyKey, seeAnew, seenKey, showKey, takeSaved, type Logged } from './snapshot.ts';
import { openSocket, type Connection } from './socket.ts';
import { Unanswered } from './unanswered.ts';
import { useAnalysis } from './use-analysis.ts';

export interface ConflictState {
  readonly change: Change;
  readonly conflicts: readonly Conflict[];
}

/** `full`: it ended since the disk has no room. */
type DatabaseAway = 'no' | 'away' | 'full';

export interface Workspace {
  readonly showId: string;
  readonly show: Show | undefined;
  readonly seen: Seen;
  readonly analysis: Analysis | undefined;
  readonly problem: Problem | undefined;
  readonly connection: Connection;
  readonly databaseAway: DatabaseAway;
  readonly here: number;
  readonly history: { readonly undo: string | null; readonly redo: string | null };
  readonly conflict: ConflictState | undefined;
  /** Saves a change; true when it is in. A conflict opens its own dialogue, anything else is told as a notice. */
  readonly save: (change: Change | undefined) => Promise<boolean>;
  readonly step: (kind: 'undo' | 'redo') => Promise<void>;
  /** Resolves when nothing is on its way to the plan any more: what is asked of the bench next is asked of that plan. */
  readonly allSaved: () => Promise<unknown>;
  readonly closeConflict: () => void;
  readonly reload: () => void;
}

const WorkspaceContext = createContext<Workspace | undefined>(undefined);
const SavingContext = createContext(false);

/** Is a change on its way? Apart from the rest, so that a press of Save does not draw everything anew. */
export const useSaving = (): boolean => use(SavingContext);

export function useWorkspace(): Workspace {
  const workspace = use(WorkspaceContext);
  if (!workspace) throw new Error('useWorkspace needs a WorkspaceProvider above it');
  return workspace;
}

/** The snapshot for screens that are drawn only when it is there. */
export function useShow(): Show {
  const { show } = useWorkspace();
  if (!show) throw new Error('useShow needs a loaded show');
  return show;
}

const largeChange = 900_000;
/** The server sends the whole change back, so that what did not clash is saved with what was chosen. */
const conflictOf = ({ facts }: Problem): ConflictState => ({
  change: facts['change'] as Change,
  conflicts: facts['conflicts'] as Conflict[],
});

/** Did the server say what became of it? If it did not, it may be done. */
const isAnswer = ({ facts }: Problem): boolean => {
  const status = Number(facts['status']);
  return status >= 400 && status < 500;
};

export function WorkspaceProvider({ showId, children }: { showId: string; children: ReactNode }) {
  const client = useQueryClient();
  const { tell, dismiss } = useNotices();
  const [connection, setConnection] = useState<Connection>('connecting');
  const [databaseAway, setDatabaseAway] = useState<DatabaseAway>('no');
  const [here, setHere] = useState(1);
  const [saving, setSaving] = useState(false);
  const [conflict, setConflict] = useState<ConflictState>();
  const unanswered = useRef(new Unanswered());
  const steps = useRef(new Map<'undo' | 'redo', string>());
  const underWay = useRef(new Set<Promise<unknown>>());
  const allSaved = useCallback(() => Promise.allSettled(underWay.current), []);
  const keep = useCallback(async function <Result>(write: Promise<Result>): Promise<Result> {
    underWay.current.add(write);
    try {
      return await write;
    } finally {
      underWay.current.delete(write);
    }
  }, []);

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
    queryFn: () => api.get<Workspace['history']>(`/shows/${showId}/history?author=${ownAuthor()}`),
    staleTime: Infinity,
  });
  const seenData = seen.data ?? core.nothingSeen;
  const tellFailure = useCallback(
    (reason: string) =>
      void tell({
        problem: new Problem({
          code: 'NOT_WORKED_OUT',
          title: 'The plan could not be worked out',
          detail: `What you see is from before. The next change tries again; if it stays, reload the page. (${reason})`,
        }),
      }),
    [tell],
  );
  const analysis = useAnalysis(show.data, seenData, tellFailure);

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
        } else if (message.topic === 'revision') catchUp(client, showId, message.rev).catch(nothing);
        // somebody deleted it: what the server says now stands instead
        else if (message.topic === 'gone') client.resetQueries({ queryKey: showKey(showId) }).catch(nothing);
        else if (message.topic === 'presence') setHere(message.here);
        else if (message.topic === 'seen') seeAnew(client, showId).catch(nothing);
        else if (message.topic === 'bench') takeBench(message.state);
        else if (message.topic === 'bench-news') {
          if (!takeBenchDifference(message.difference))
            api.get<contract.BenchState>(`/bench/${showId}`).then(takeBench, nothing);
        } else if (message.topic === 'tap') takeTapNews(message.news);
        else {
          setDatabaseAway(message.away ? (message.full ? 'full' : 'away') : 'no');
          if (wasAway && !message.away) tell({ text: 'The database answers again.' });
          wasAway = message.away;
          if (!message.away) refresh().catch(nothing);
        }
      },
    });
  }, [client, showId, tell]);

  const save = useCallback(
    async function attempt(change: Change | undefined): Promise<boolean> {
      if (!change || change.edits.length === 0) return true;
      setSaving(true);
      const id = unanswered.current.idOf(change) ?? newId();
      for (const noticeId of unanswered.current.overtakenBy(change)) dismiss(noticeId);
      try {
        const body = { id, author: ownAuthor(), change };
        const large = change.edits.length > 300 && JSON.stringify(body).length > largeChange;
        const path = `/shows/${showId}/${large ? 'imports' : 'changes'}`;
        const saved = await keep(api.post<Logged | Pick<Logged, 'rev'>>(path, body));
        // it is in; if the news of it gets lost now, the socket brings it later
        await takeSaved(client, showId, 'edits' in saved ? saved : undefined).catch(nothing);
        tell({ text: change.label, undo: true });
        return true;
      } catch (error) {
        const problem = asProblem(error);
        if (problem.code === 'SHOW_CHANGED') setConflict(conflictOf(problem));
        else {
          const noticeId = tell({ problem, retry: () => void attempt(change) });
          unanswered.current.add({ id, change, noticeId });
        }
        return false;
      } finally {
        setSaving(false);
      }
    },
    [client, showId, tell, dismiss, keep],
  );

  const step = useCallback(
    async (kind: 'undo' | 'redo'): Promise<void> => {
      // pressed again because no answer came, it is the same step
      const id = steps.current.get(kind) ?? newId();
      steps.current.set(kind, id);
      try {
        const { label } = await keep(
          api.post<{ label: string }>(`/shows/${showId}/${kind}`, { id, author: ownAuthor() }),
        );
        steps.current.delete(kind);
        await catchUp(client, showId);
        tell({ text: `${kind === 'undo' ? 'Taken back' : 'Done again'}: ${label}` });
      } catch (error) {
        const problem = asProblem(error);
        if (isAnswer(problem)) steps.current.delete(kind);
        if (problem.code === 'SHOW_CHANGED') setConflict(conflictOf(problem));
        else tell({ problem });
      }
    },
    [client, showId, tell, keep],
  );

  const problem = show.error ? asProblem(show.error) : undefined;
  const { refetch } = show;
  const value = useMemo<Workspace>(
    () => ({
      showId,
      show: show.data,
      seen: seenData,
      analysis,
      problem,
      connection,
      databaseAway,
      here,
      history: history.data ?? { undo: null, redo: null },
      conflict,
      save,
      step,
      allSaved,
      closeConflict: () => setConflict(undefined),
      reload: () => void refetch(),
    }),
    [
      showId,
      show.data,
      seenData,
      analysis,
      problem,
      connection,
      databaseAway,
      here,
      history.data,
      conflict,
      save,
      step,
      allSaved,
      refetch,
    ],
  );
  return (
    <WorkspaceContext value={value}>
      <SavingContext value={saving}>{children}</SavingContext>
    </WorkspaceContext>
  );
}
