/// <reference lib="webworker" />
import { analyse, tryFixes, type Analysis, type Show } from '@deep-patch/core';
import type { WorkerAnswer, WorkerJob } from './analysis-runner.ts';
import { withDifference } from './show-difference.ts';

declare const self: DedicatedWorkerGlobalScope;

/** Trials of a large show take a while: what is known by then is told so often. */
const tellEveryMs = 400;
let newest = 0;
let show: Show | undefined;

const tell = (answer: WorkerAnswer) => self.postMessage(answer);

self.onmessage = ({ data }: MessageEvent<WorkerJob>) => {
  newest = data.job;
  show = withDifference(show, data.difference);
  const analysis = analyse(show, data.seen, data.now);
  tell({ job: data.job, analysis });
  goOn(data.job, tryFixes(show, analysis), undefined, performance.now());
};

/** One trial after the other, each in a task of its own, so that a newer snapshot ends them. */
function goOn(job: number, trials: Iterator<Analysis, void>, known: Analysis | undefined, toldAt: number): void {
  setTimeout(() => {
    if (job !== newest) return;
    const { done, value } = trials.next();
    const analysis = done ? known : value;
    const isDue = done ?? performance.now() - toldAt > tellEveryMs;
    if (isDue && analysis) tell({ job, analysis });
    if (!done) goOn(job, trials, isDue ? undefined : analysis, isDue ? performance.now() : toldAt);
  });
}
