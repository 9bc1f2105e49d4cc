import { useCallback, useEffect, useState } from 'react';
import { api, asProblem, type Problem } from '../live/api.ts';
import type { contract } from '@deep-patch/core';
import { takeBench, useBenchPart } from '../live/bench-store.ts';
import { useNotices } from '../live/notices.tsx';
import { useWorkspace } from '../live/workspace.tsx';

/** Answers whether it was done; why not is told already. */
export type DoOnBench = (wanted: contract.BenchAct) => Promise<boolean>;

/**
 * What can be asked of the bench of this show. It is asked for once, told of every change after that, and asked for again
 * when it started anew; what it shows is in `bench-store.ts`.
 */
export function useBench() {
  const { showId, connection, allSaved } = useWorkspace();
  const missing = useBenchPart((known) => (known ? undefined : known === null ? 'ended' : 'unknown'));
  const { tell } = useNotices();
  const [problem, setProblem] = useState<Problem>();

  const load = useCallback(
    () =>
      api.get<contract.BenchState>(`/bench/${showId}`).then(
        (state) => {
          takeBench(state);
          setProblem(undefined);
        },
        (error: unknown) => setProblem(asProblem(error)),
      ),
    [showId],
  );
  useEffect(() => {
    if (!missing || connection === 'connecting') return;
    // after the bench ended, it needs a moment to start again
    const timer = setTimeout(() => void load(), missing === 'ended' ? 700 : 0);
    return () => clearTimeout(timer);
  }, [missing, load, connection]);

  const ask = useCallback(
    async (path: string, body: unknown): Promise<boolean> => {
      try {
        await allSaved();
        takeBench(await api.post<contract.BenchState>(`/bench/${showId}/${path}`, body));
        return true;
      } catch (error) {
        tell({ problem: asProblem(error) });
        return false;
      }
    },
    [showId, tell, allSaved],
  );
  const power = useCallback((deviceIds: readonly string[], on: boolean) => ask('power', { deviceIds, on }), [ask]);
  const act = useCallback((wanted: contract.BenchAct) => ask('acts', wanted), [ask]);
  const openJack = useCallback(
    (deviceId: string, serviceKey: string, replyTo: number | null) => ask('jacks', { deviceId, serviceKey, replyTo }),
    [ask],
  );
  const closeJack = useCallback(
    async (port: number) => {
      try {
        takeBench(await api.remove<contract.BenchState>(`/bench/${showId}/jacks/${port}`));
      } catch (error) {
        tell({ problem: asProblem(error) });
      }
    },
    [showId, tell],
  );
  return { problem, load, power, act, openJack, closeJack };
}
