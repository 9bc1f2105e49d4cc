import { show as core, type Analysis, type AnalysisParts, type Show } from '@deep-patch/core';
import fc from 'fast-check';
import { expect, test } from 'vitest';
import { AnalysisRunner, type AnalysisWorker, type WorkerJob } from './analysis-runner.ts';
import { showDifference, withDifference } from './show-difference.ts';
import { toldDifference } from './told-analysis.ts';

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
    const parts = { rev: job?.difference.about.rev ?? 0, showId: 'x', at: 0, findings: [], found: undefined };
    const analysis = { ...parts, soundings: new Map(), depths: new Map() } as unknown as AnalysisParts;
    const data = { job: job?.job, told: toldDifference(undefined, analysis) };
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
  const run = (rev: number) =>
    runner.run({ show: { ...core.emptyShow({ id: 'x', name: '' }), rev }, seen: core.nothingSeen });
  return { workers, done, failed, runner, run, last: () => workers.at(-1) ?? new FakeWorker() };
}

test('of many snapshots only the newest is worked out after the one under way', () => {
  const { workers, done, run, last } = running();
  for (const rev of [1, 2, 3, 4]) run(rev);
  expect(last().jobs.map(({ difference }) => difference.about.rev)).toEqual([1]);
  const [first] = last().jobs;
  last().answer();
  expect(last().jobs.map(({ difference }) => difference.about.rev)).toEqual([1, 4]);
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
  expect([workers.length, workers[0]?.ended, last().jobs[0]?.difference.about.rev]).toEqual([2, true, 1]);
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
  expect(last().jobs.map(({ difference }) => difference.about.rev)).toEqual([5]);
});

test('when its screen goes, it ends', () => {
  const { runner, run, last, workers } = running();
  run(1);
  runner.stop();
  expect(last().ended).toBe(true);
  last().answer();
  expect(workers.length).toBe(1);
});

test('a show made of the one before and what differs is the show, and what did not change is the same object', () => {
  const start = core.emptyShow({ id: 'x', name: 'X' });
  const row = fc.record({
    table: fc.constantFrom(...core.tableNames),
    at: fc.nat(5),
    name: fc.string(),
    gone: fc.boolean(),
  });
  const steps = fc.array(fc.array(row, { maxLength: 6 }), { minLength: 1, maxLength: 8 });
  let cases = 0;
  fc.assert(
    fc.property(steps, (rounds) => {
      cases += 1;
      let [plain, told, held] = [start, undefined as Show | undefined, undefined as Show | undefined];
      for (const [rev, edits] of rounds.entries()) {
        plain = core.written(
          plain,
          {
            label: '',
            edits: edits.map(({ table, at, name, gone }) => {
              const id = `r${at}`;
              return { table, id, base: 0, before: null, after: gone ? null : { id, name } } as unknown as core.Edit;
            }),
          },
          rev + 1,
        );
        const difference = structuredClone(showDifference(told, plain));
        const next = withDifference(held, difference);
        expect(next).toEqual(plain);
        const touched = new Set(difference.tables.map(({ table }) => table));
        for (const table of core.tableNames) if (held && !touched.has(table)) expect(next[table]).toBe(held[table]);
        [told, held] = [plain, next];
      }
    }),
  );
  expect(cases).toBe(100);
});
