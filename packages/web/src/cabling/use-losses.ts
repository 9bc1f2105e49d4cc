import type { links, Show } from '@deep-patch/core';
import { useEffect, useState } from 'react';

/**
 * What each loss takes down, worked out beside the screen while somebody wants to know; undefined until it is, and after
 * each change until it is again.
 */
export function useLosses(show: Show, isWanted: boolean): readonly links.Loss[] | undefined {
  const [state, setState] = useState<{ readonly of: Show; readonly losses: readonly links.Loss[] }>();
  useEffect(() => {
    if (!isWanted) return undefined;
    const worker = new Worker(new URL('./losses.worker.ts', import.meta.url), { type: 'module' });
    worker.onmessage = ({ data }: MessageEvent<readonly links.Loss[]>) => setState({ of: show, losses: data });
    worker.postMessage(show);
    return () => worker.terminate();
  }, [show, isWanted]);
  return state?.of === show ? state.losses : undefined;
}
