import { useEffect, useRef, useState } from 'react';
import type { Analysis, Seen, Show } from '@deep-patch/core';
import { AnalysisRunner } from './analysis-runner.ts';

const makeWorker = () => new Worker(new URL('./analysis.worker.ts', import.meta.url), { type: 'module' });

/**
 * The analysis of the newest snapshot. Keeps the one before while the next is on its way; `onFailure` is told when it
 * cannot be worked out.
 */
export function useAnalysis(
  show: Show | undefined,
  seen: Seen | undefined,
  onFailure: (reason: string) => void,
): Analysis | undefined {
  const runner = useRef<AnalysisRunner | undefined>(undefined);
  const [analysis, setAnalysis] = useState<Analysis>();

  useEffect(() => {
    const made = new AnalysisRunner(makeWorker, { done: setAnalysis, failed: onFailure });
    runner.current = made;
    return () => made.stop();
  }, [onFailure]);

  useEffect(() => {
    if (show && seen) runner.current?.run({ show, seen });
  }, [show, seen, onFailure]);

  return analysis?.showId === show?.id ? analysis : undefined;
}
