import { cues as cueRoom, type contract } from '@deep-patch/core';
import { useCallback, useEffect, useRef } from 'react';
import { useShow, useWorkspace } from '../live/workspace.tsx';

/**
 * What a rehearsal proved is kept with the cues, as one change, as soon as it is over: by whoever began it. Answers what
 * notes that one begins.
 */
export function useKeepProofs(run: contract.CueRunState | null | undefined): () => void {
  const show = useShow();
  const { save } = useWorkspace();
  /** The start of the run before; undefined while nobody here waits for one. */
  const before = useRef<number | null>(undefined);
  useEffect(() => {
    if (before.current === undefined || !run?.rehearsed || run.startedAt === before.current) return;
    before.current = undefined;
    void save(cueRoom.planProofs(show, run.done));
  }, [run, show, save]);
  const startedAt = run?.startedAt ?? null;
  return useCallback(() => {
    before.current = startedAt;
  }, [startedAt]);
}
