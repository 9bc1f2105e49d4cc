/// <reference lib="webworker" />
import { StandingAnalysis, analyse, tryFixes, type AnalysisParts, type Seen, type Show } from '@deep-patch/core';
import type { WorkerAnswer, WorkerJob } from './analysis-runner.ts';
import { rowsOfDifference, withDifference, type ShowDifference } from './show-difference.ts';
import { toldDifference } from './told-analysis.ts';

declare const self: DedicatedWorkerGlobalScope;

/** Trials of a large show take a while: what is known by then is told so often. */
const tellEveryMs = 400;
/** Where one analysis takes longer, what may wait does so until nobody has typed for a moment. */
const isLongMs = 50;
const quietMs = 700;
let newest = 0;
let told: AnalysisParts | undefined;
let standing: StandingAnalysis | undefined;
let show: Show | undefined;
/** What the show has not taken in yet: while the standing analysis goes on, nobody asks for the whole. */
let behind: ShowDifference[] = [];
let pauseMs = 0;

/** The analysis that stands, as it was told last; another one where fixes were tried since. */
let stood: AnalysisParts | undefined;

function tell(job: number, analysis: AnalysisParts): void {
  const touched = told === stood ? standing?.touchedLinks : undefined;
  self.postMessage({ job, told: toldDifference(told, analysis, touched) } satisfies WorkerAnswer);
  told = analysis;
}

function wholeShow(): Show {
  for (const difference of behind) show = withDifference(show, difference);
  behind = [];
  if (!show) throw new Error('no show was handed over');
  return show;
}

self.onmessage = ({ data }: MessageEvent<WorkerJob>) => {
  newest = data.job;
  behind.push(data.difference);
  if (told && data.difference.about.id !== told.showId) standing = undefined;
  const analysis = advanced(data) ?? whole(data);
  tell(data.job, analysis);
  stood = standing && analysis;
  setTimeout(() => goOn(data, analysis), pauseMs);
};

/** Only what the difference touches is worked out again; undefined where that cannot be done. */
function advanced({ difference, seen, now }: WorkerJob): AnalysisParts | undefined {
  try {
    return standing?.advance(rowsOfDifference(difference), difference.about.rev, seen, now);
  } catch {
    // the whole analysis says what is wrong, if anything is
    standing = undefined;
    return undefined;
  }
}

function whole({ seen, now }: { seen: Seen; now: number }): AnalysisParts {
  const began = performance.now();
  const { addressing: _, ...parts } = analyse(wholeShow(), seen, now);
  pauseMs = performance.now() - began > isLongMs ? quietMs : 0;
  return parts;
}

/** What may wait: that the analysis stands from now on, and that fixes are tried. */
function goOn({ job, seen, now }: WorkerJob, analysis: AnalysisParts): void {
  if (job !== newest) return;
  standing ??= standingOn(seen, now);
  tryOn(job, tryFixes(wholeShow(), analysis), undefined, performance.now());
}

/** Undefined where it cannot be made to stand: the whole goes on being worked out each time. */
function standingOn(seen: Seen, now: number): StandingAnalysis | undefined {
  try {
    return new StandingAnalysis(wholeShow(), seen, now);
  } catch {
    return undefined;
  }
}

/** One trial after the other, each in a task of its own, so that a newer snapshot ends them. */
function tryOn(
  job: number,
  trials: Iterator<AnalysisParts, void>,
  known: AnalysisParts | undefined,
  toldAt: number,
): void {
  setTimeout(() => {
    if (job !== newest) return;
    const { done, value } = trials.next();
    const analysis = done ? known : value;
    const isDue = done ?? performance.now() - toldAt > tellEveryMs;
    if (isDue && analysis) {
      stood = undefined;
      tell(job, analysis);
    }
    if (!done) tryOn(job, trials, isDue ? undefined : analysis, isDue ? performance.now() : toldAt);
  });
}
