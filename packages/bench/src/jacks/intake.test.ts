import { expect, test } from 'vitest';
import { Intake } from './intake.ts';

const turn = () => new Promise<void>((done) => setImmediate(done));

test('everything is worked on in its order, in slices that let others run between', async () => {
  const worked: number[] = [];
  let others = 0;
  const intake = new Intake();
  const batchFrom = (start: number, count: number) => ({
    weights: new Uint32Array(count).fill(1),
    work: (at: number) => {
      worked.push(start + at);
      const end = performance.now() + 0.05;
      while (performance.now() < end);
    },
  });
  const wanted = Array.from({ length: 600 }, (_, at) => at);
  for (const start of [0, 1, 30, 430])
    intake.take(batchFrom(start, ([1, 30, 430, 600].find((end) => end > start) ?? 0) - start));
  // nothing is worked on while it arrives
  expect(worked).toEqual([]);
  for (let turns = 0; turns < 10_000 && worked.length < wanted.length; turns += 1) {
    await turn();
    others += 1;
  }
  expect([worked, others > 2]).toEqual([wanted, true]);
  intake.take(batchFrom(600, 1));
  await turn();
  await turn();
  expect([worked.at(-1), intake.dropped]).toEqual([600, 0]);
});

test('what comes on top of its room is dropped and counted, and it goes on afterwards', async () => {
  let worked = 0;
  const intake = new Intake();
  const batch = { weights: new Uint32Array(100).fill(1), work: () => (worked += 1) };
  for (let n = 0; n < 3005; n += 1) intake.take(batch);
  expect(intake.dropped).toBe(500);
  for (let turns = 0; turns < 10_000 && worked < 300_000; turns += 1) await turn();
  intake.take(batch);
  await turn();
  await turn();
  expect([worked, intake.dropped]).toEqual([300_100, 500]);
});

test('a datagram counts as many as the messages that it holds', async () => {
  let worked = 0;
  const intake = new Intake();
  const bundles = { weights: new Uint32Array(50).fill(1600), work: () => (worked += 1) };
  for (let n = 0; n < 4; n += 1) intake.take(bundles);
  expect(intake.dropped).toBe(80_000);
  for (let turns = 0; turns < 10_000 && worked < 150; turns += 1) await turn();
  intake.take(bundles);
  expect([worked, intake.dropped]).toEqual([150, 80_000]);
});
