/// <reference lib="webworker" />
import { analyse, type Seen, type Show } from '@deep-patch/core';

declare const self: DedicatedWorkerGlobalScope;

self.onmessage = ({ data }: MessageEvent<{ job: number; show: Show; seen: Seen; now: number }>) => {
  const started = performance.now();
  const analysis = analyse(data.show, data.seen, data.now);
  self.postMessage({ job: data.job, analysis, tookMs: performance.now() - started });
};
