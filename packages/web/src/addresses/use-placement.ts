import type { Show } from '@deep-patch/core';
import { useEffect, useState } from 'react';
import { useWorkerFailure } from '../live/use-worker-failure.ts';
import type { PlacementAnswer, PlacementJob } from './placement.worker.ts';

export type PlacementState =
  { readonly kind: 'working'; readonly share: number } | Extract<PlacementAnswer, { kind: 'placed' }>;

/** Works a placement out beside the screen; a new question, or leaving, ends the one before. */
export function usePlacement(show: Show, scope: PlacementJob['scope']): PlacementState {
  const [state, setState] = useState<{ of: Show; scope: string; state: PlacementState }>();
  const failed = useWorkerFailure('The placement');
  useEffect(() => {
    const worker = new Worker(new URL('./placement.worker.ts', import.meta.url), { type: 'module' });
    worker.onmessage = ({ data }: MessageEvent<PlacementAnswer>) => {
      const next: PlacementState =
        data.kind === 'placed' ? data : { kind: 'working', share: data.done / Math.max(1, data.total) };
      setState({ of: show, scope, state: next });
    };
    worker.onerror = ({ message }) => failed(message);
    const job: PlacementJob = { show, scope };
    worker.postMessage(job);
    return () => worker.terminate();
  }, [show, scope, failed]);
  return state?.of === show && state.scope === scope ? state.state : { kind: 'working', share: 0 };
}
