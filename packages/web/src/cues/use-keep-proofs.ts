import type { contract } from '@deep-patch/core';
import { cues as cueRoom } from '@deep-patch/core';
import { useEffect, useRef } from 'react';
import { useShow, useWorkspace } from '../live/workspace.tsx';

/** What a rehearsal proved is kept with the cues, as one change, as soon as it is over. */
export function useKeepProofs(run: contract.CueRunState | null | undefined): void {
  const show = useShow();
  const { save } = useWorkspace();
  const rehearsing = useRef(false);
  useEffect(() => {
    const wasRehearsing = rehearsing.current;
    rehearsing.current = run?.rehearsing ?? false;
    if (wasRehearsing && run && !run.rehearsing) void save(cueRoom.planProofs(show, run.done));
  }, [run, show, save]);
}
