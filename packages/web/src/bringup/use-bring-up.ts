import type { bringup, Show } from '@deep-patch/core';
import { useEffect, useRef, useState } from 'react';
import { useWorkerFailure } from '../live/use-worker-failure.ts';

/**
 * The order worked out for a show. While a newer one is on its way the one before stays, so that nobody loses the step
 * that is in front of them; `isFresh` says whether it is of this show.
 */
export function useBringUp(show: Show): { plan: bringup.BringUp | undefined; isFresh: boolean } {
  const worker = useRef<Worker>(undefined);
  const asked = useRef<Show[]>([]);
  const failed = useWorkerFailure('The order of the steps');
  const [answer, setAnswer] = useState<{ of: Show; plan: bringup.BringUp }>();
  useEffect(() => {
    const made = new Worker(new URL('./bring-up.worker.ts', import.meta.url), { type: 'module' });
    made.onmessage = ({ data }: MessageEvent<bringup.BringUp>) => {
      const of = asked.current.shift();
      if (of) setAnswer({ of, plan: data });
    };
    made.onerror = ({ message }) => {
      asked.current.shift();
      failed(message);
    };
    worker.current = made;
    return () => {
      made.terminate();
      worker.current = undefined;
      asked.current = [];
    };
  }, [failed]);
  useEffect(() => {
    asked.current.push(show);
    worker.current?.postMessage(show);
  }, [show]);
  return { plan: answer?.plan, isFresh: answer?.of === show };
}
