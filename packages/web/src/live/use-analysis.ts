import { useEffect, useRef, useState } from 'react';
import type { Analysis, Seen, Show } from '@deep-patch/core';

interface Answer {
  readonly job: number;
  readonly analysis: Analysis;
  readonly tookMs: number;
}

/** The analysis of the newest snapshot, worked out beside the screen. Keeps the one before while the next is on its way. */
export function useAnalysis(show: Show | undefined, seen: Seen | undefined): Analysis | undefined {
  const worker = useRef<Worker | undefined>(undefined);
  const newest = useRef(0);
  const [analysis, setAnalysis] = useState<Analysis>();

  useEffect(() => {
    const made = new Worker(new URL('./analysis.worker.ts', import.meta.url), { type: 'module' });
    worker.current = made;
    made.onmessage = ({ data }: MessageEvent<Answer>) => {
      if (data.job === newest.current) setAnalysis(data.analysis);
    };
    return () => made.terminate();
  }, []);

  useEffect(() => {
    if (!show || !seen) return;
    newest.current += 1;
    worker.current?.postMessage({ job: newest.current, show, seen, now: Date.now() });
  }, [show, seen]);

  return analysis?.showId === show?.id ? analysis : undefined;
}
