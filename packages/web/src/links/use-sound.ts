import type { show } from '@deep-patch/core';
import { useQueryClient } from '@tanstack/react-query';
import { useCallback, useEffect, useRef, useState } from 'react';
import { api, asProblem } from '../live/api.ts';
import { useNotices } from '../live/notices.tsx';
import { seenKey } from '../live/snapshot.ts';
import { useWorkspace } from '../live/workspace.tsx';

/** Sounds links one after the other; can be stopped between two, and ends at the first failure of the bench itself. */
export function useSound() {
  const { showId, allSaved } = useWorkspace();
  const { tell } = useNotices();
  const client = useQueryClient();
  const [sounding, setSounding] = useState<{ done: number; total: number }>();
  const run = useRef(0);
  useEffect(() => () => void (run.current += 1), []);

  const soundAll = useCallback(
    async (linkIds: readonly string[]) => {
      const own = (run.current += 1);
      try {
        for (const [done, linkId] of linkIds.entries()) {
          if (run.current !== own) return;
          setSounding({ done, total: linkIds.length });
          await allSaved();
          await api.post<show.MeasuredSounding>(`/bench/${showId}/sound`, { linkId });
        }
      } catch (error) {
        tell({ problem: asProblem(error) });
      } finally {
        await client.invalidateQueries({ queryKey: seenKey(showId) });
        if (run.current === own) setSounding(undefined);
      }
    },
    [client, showId, tell, allSaved],
  );
  const stop = useCallback(() => {
    run.current += 1;
    setSounding(undefined);
  }, []);
  return { sounding, soundAll, stop };
}
