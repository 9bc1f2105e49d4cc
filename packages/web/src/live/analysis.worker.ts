/// <reference lib="webworker" />
import { analyse, tryFixes, type Analysis, type Seen, type Show } from '@deep-patch/core';

declare const self: DedicatedWorkerGlobalScope;

/** Trials of a large show take a while: what is known by then is told so often. */
const tellEveryMs = 400;
let newest = 0;

self.onmessage = ({ data }: MessageEvent<{ job: number; show: Show; seen: Seen; now: number }>) => {
  newest = data.job;
  const started = performance.now();
  const analysis = analyse(data.show, data.seen, data.now);
  self.postMessage({ job: data.job, analysis, tookMs: performance.now() - started });
  goOn(data.job, tryFixes(data.show, analysis), undefined, performance.now());
};

/** One trial after the other, each in a task of its own, so that a newer snapshot ends them. */
function goOn(job: number, trials: Iterator<Analysis, void>, known: Analysis | undefined, toldAt: number): void {
  setTimeout(() => {
    if (job !== newest) return;
    const { done, value } = trials.next();
    const analysis = done ? known : value;
    const isDue = done ?? performance.now() - toldAt > tellEveryMs;
    if (isDue && analysis) self.postMessage({ job, analysis, tookMs: performance.now() - toldAt });
    if (!done) goOn(job, trials, isDue ? undefined : analysis, isDue ? performance.now() : toldAt);
  });
}
