import type { contract, Show, surfaces } from '@deep-patch/core';
import { useQueryClient } from '@tanstack/react-query';
import { useCallback, useEffect, useRef } from 'react';
import { api, asProblem } from '../live/api.ts';
import { useNotices } from '../live/notices.tsx';
import { showKey } from '../live/snapshot.ts';
import { useWorkspace } from '../live/workspace.tsx';

type Move = contract.Moves['moves'][number];
/** `every`: it is a press, of which none may be left out; else only the newest place counts. */
export type MoveControl = (move: Move, every: boolean) => void;

/** Is each of its movements one that may not be left out? */
export const isPressed = ({ kind }: Pick<surfaces.SurfaceControl, 'kind'>, part: Move['part']): boolean =>
  kind === 'key' || kind === 'region' || part === 'up' || part === 'down';

const mostAtOnce = 100;

/**
 * Moves controls of a surface on the bench. What moves within one picture of the screen goes in one request, the last
 * value of each; while a request is on its way the next ones gather, so that the last value always arrives. What was
 * changed in the plan just before is in it when they come.
 */
export function useMoves(deviceId: string): MoveControl {
  const { showId, allSaved } = useWorkspace();
  const client = useQueryClient();
  const waiting = useRef<Move[]>([]);
  const busy = useRef(false);
  const frame = useRef(0);
  const { tell } = useNotices();
  const flush = useCallback(async (): Promise<void> => {
    frame.current = 0;
    busy.current = true;
    // what came meanwhile goes at once: a screen that is not drawn turns no frames
    while (waiting.current.length > 0) {
      await allSaved();
      const rev = client.getQueryData<Show>(showKey(showId))?.rev ?? 0;
      const moves = waiting.current.splice(0, mostAtOnce);
      await api.post(`/bench/${showId}/moves`, { deviceId, moves, rev }).catch((error: unknown) => {
        tell({ problem: asProblem(error) });
      });
    }
    busy.current = false;
  }, [showId, deviceId, tell, allSaved, client]);
  useEffect(() => () => cancelAnimationFrame(frame.current), []);
  return useCallback(
    (move, every) => {
      const own = every
        ? -1
        : waiting.current.findIndex(({ control, part }) => control === move.control && part === move.part);
      if (own >= 0) waiting.current[own] = move;
      else waiting.current.push(move);
      if (!busy.current && frame.current === 0) frame.current = requestAnimationFrame(() => void flush());
    },
    [flush],
  );
}
