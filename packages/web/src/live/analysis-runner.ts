import type { Analysis, Seen, Show } from '@deep-patch/core';
import { showDifference, type ShowDifference } from './show-difference.ts';
import { withTold, type ToldAnalysis } from './told-analysis.ts';

export interface AnalysisJob {
  readonly show: Show;
  readonly seen: Seen;
}
export interface WorkerJob {
  /** To the show of the job before, or to none in a worker that has just started. */
  readonly difference: ShowDifference;
  readonly seen: Seen;
  readonly job: number;
  readonly now: number;
}
export interface WorkerAnswer {
  readonly job: number;
  readonly told: ToldAnalysis;
}
export type AnalysisWorker = Pick<Worker, 'postMessage' | 'terminate' | 'onmessage' | 'onerror'>;

interface Hooks {
  readonly done: (analysis: Analysis) => void;
  readonly failed: (reason: string) => void;
}

/**
 * Works out the newest snapshot beside the screen: what was overtaken before its turn is left out. A worker that fails is
 * replaced and asked once more; if it fails again, that is told, and the next snapshot is tried.
 */
export class AnalysisRunner {
  private worker: AnalysisWorker | undefined;
  /** What the worker has. */
  private sent: Show | undefined;
  /** What the worker told, and goes on from. */
  private known: Analysis | undefined;
  private job = 0;
  private current: AnalysisJob | undefined;
  private next: AnalysisJob | undefined;
  private isBusy = false;
  private attempts = 0;
  private readonly make: () => AnalysisWorker;
  private readonly on: Hooks;

  constructor(make: () => AnalysisWorker, on: Hooks) {
    this.make = make;
    this.on = on;
  }

  run(job: AnalysisJob): void {
    this.next = job;
    if (!this.isBusy) this.begin();
  }

  stop(): void {
    this.worker?.terminate();
    this.worker = undefined;
    this.sent = undefined;
    this.known = undefined;
    this.next = undefined;
  }

  private begin(): void {
    const job = this.next;
    if (!job) return;
    this.next = undefined;
    this.attempts = 0;
    this.send(job);
  }

  private send(job: AnalysisJob): void {
    this.current = job;
    this.isBusy = true;
    this.attempts += 1;
    this.job += 1;
    this.worker ??= this.start();
    const difference = showDifference(this.sent, job.show);
    this.sent = job.show;
    this.worker.postMessage({ difference, seen: job.seen, job: this.job, now: Date.now() } satisfies WorkerJob);
  }

  private start(): AnalysisWorker {
    const worker = this.make();
    worker.onmessage = ({ data }: MessageEvent<WorkerAnswer>) => {
      // what is told goes on from what was told before, also where nobody waits for it any more
      if (this.worker !== worker || !this.current) return;
      this.known = withTold(this.known, this.current.show, data.told);
      if (data.job !== this.job) return;
      // fixes are still tried; a newer snapshot ends that
      this.isBusy = false;
      // of a plan that has moved on nobody should place or mend anything
      if (this.next) this.begin();
      else this.on.done(this.known);
    };
    worker.onerror = ({ message }) => {
      worker.terminate();
      if (this.worker === worker) this.failed(message);
    };
    return worker;
  }

  private failed(reason: string): void {
    this.worker = undefined;
    this.sent = undefined;
    this.known = undefined;
    this.isBusy = false;
    const again = this.next ?? (this.attempts < 2 ? this.current : undefined);
    if (!again) {
      this.on.failed(reason);
      return;
    }
    if (this.next) this.begin();
    else this.send(again);
  }
}
