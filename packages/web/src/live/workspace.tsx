import type { Analysis, Change, Seen, Show } from '@deep-patch/core';
import { createContext, use, useMemo, type ReactNode } from 'react';
import { asProblem, type Problem } from './api.ts';
import type { Connection } from './socket.ts';
import { useAnalysis } from './use-analysis.ts';
import { useLive, type DatabaseAway } from './use-live.ts';
import { useSaves, type ConflictState } from './use-saves.ts';
import { useServerData, type History } from './use-server-data.ts';
import { useWorkerFailure } from './use-worker-failure.ts';

export interface Workspace {
  readonly showId: string;
  readonly show: Show | undefined;
  readonly seen: Seen;
  readonly analysis: Analysis | undefined;
  readonly problem: Problem | undefined;
  readonly connection: Connection;
  readonly databaseAway: DatabaseAway;
  readonly here: number;
  readonly history: History;
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

/** All that the screens of one show share: its snapshot, what follows from it, and how it is changed. */
export function WorkspaceProvider({ showId, children }: { showId: string; children: ReactNode }) {
  const { show, seen, history } = useServerData(showId);
  const analysis = useAnalysis(show.data, seen, useWorkerFailure('The plan'));
  const { connection, databaseAway, here } = useLive(showId);
  const { save, step, saving, conflict, closeConflict, allSaved } = useSaves(showId);
  const { data, error, refetch } = show;
  const value = useMemo<Workspace>(
    () => ({
      showId,
      show: data,
      seen,
      analysis,
      problem: error ? asProblem(error) : undefined,
      connection,
      databaseAway,
      here,
      history,
      conflict,
      save,
      step,
      allSaved,
      closeConflict,
      reload: () => void refetch(),
    }),
    [
      showId,
      data,
      seen,
      analysis,
      error,
      connection,
      databaseAway,
      here,
      history,
      conflict,
      save,
      step,
      allSaved,
      closeConflict,
      refetch,
    ],
  );
  return (
    <WorkspaceContext value={value}>
      <SavingContext value={saving}>{children}</SavingContext>
    </WorkspaceContext>
  );
}
