import type { Analysis, Seen, Show } from '@deep-patch/core';
import { expect, test } from 'vitest';
import { AnalysisRunner, type AnalysisWorker, type WorkerJob } from './analysis-runner.ts';

/** A worker that answers or fails when the test says so. */
class FakeWorker implements AnalysisWorker {
  onmessage: AnalysisWorker['onmessage'] = null;
  onerror: AnalysisWorker['onerror'] = null;
  readonly jobs: WorkerJob[] = [];
  ended = false;
  postMessage(job: WorkerJob): void {
    this.jobs.push(job);
  }
  terminate(): void {
    this.ended = true;
  }
  answer(job = this.jobs.at(-1)): void {
    const data = { job: job?.job, analysis: { rev: job?.show.rev } };
    this.onmessage?.call(this as never, { data } as MessageEvent);
  }
  fail(): void {
    this.onerror?.call(this as never, { message: 'out of memory' } as ErrorEvent);
  }
}

function running() {
  const workers: FakeWorker[] = [];
  const [done, failed]: [number[], string[]] = [[], []];
  const make = () => {
    const worker = new FakeWorker();
    workers.push(worker);
    return worker;
  };
  const runner = new AnalysisRunner(make, {
    done: (analysis: Analysis) => done.push(analysis.rev),
    failed: (reason) => failed.push(reason),
  });
  const run = (rev: number) => runner.run({ show: { rev } as Show, seen: {} as Seen });
  return { workers, done, failed, runner, run, last: () => workers.at(-1) ?? new FakeWorker() };
}

test('of many snapshots only the newest is worked out after the one under way', () => {
  const { workers, done, run, last } = running();
  for (const rev of [1, 2, 3, 4]) run(rev);
  expect(last().jobs.map(({ show }) => show.rev)).toEqual([1]);
  const [first] = last().jobs;
  last().answer();
  expect(last().jobs.map(({ show }) => show.rev)).toEqual([1, 4]);
  // what is still told of the one before, such as a tried fix, is late
  last().answer(first);
  last().answer();
  last().answer();
  expect([done, workers.length]).toEqual([[4, 4], 1]);
});

test('a worker that fails is replaced and asked again, once; then it is told, and the next snapshot is tried', () => {
  const { workers, done, failed, run, last } = running();
  run(1);
  last().fail();
  expect([workers.length, workers[0]?.ended, last().jobs[0]?.show.rev]).toEqual([2, true, 1]);
  last().answer();
  expect([done, failed]).toEqual([[1], []]);
  run(2);
  last().fail();
  last().fail();
  expect(failed).toEqual(['out of memory']);
  run(3);
  last().answer();
  expect([done, workers.length]).toEqual([[1, 3], 4]);
  // what came meanwhile is worked out instead of what failed
  run(4);
  run(5);
  last().fail();
  expect(last().jobs.map(({ show }) => show.rev)).toEqual([5]);
});

test('when its screen goes, it ends', () => {
  const { runner, run, last, workers } = running();
  run(1);
  runner.stop();
  expect(last().ended).toBe(true);
  last().answer();
  expect(workers.length).toBe(1);
});
