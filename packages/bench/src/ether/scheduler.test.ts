import { expect, test } from 'vitest';
import { startScheduler } from './scheduler.ts';

const pause = (ms: number) => new Promise((done) => setTimeout(done, ms));

test('what somebody from outside plans counts from now, not from the last event', async () => {
  const scheduler = startScheduler(1);
  // something far away keeps simulated time at the last event
  scheduler.after(60_000, () => undefined);
  const before = scheduler.now();
  await pause(60);
  expect(scheduler.now()).toBe(before);
  scheduler.catchUp();
  expect(scheduler.now() - before).toBeGreaterThanOrEqual(50);
  const asked = performance.now();
  await new Promise<void>((done) => void scheduler.after(40, done));
  expect(performance.now() - asked).toBeGreaterThanOrEqual(38);
  scheduler.stop();
});

test('without a clock time passes from event to event, and stands still while the machine is busy', async () => {
  const scheduler = startScheduler(Infinity);
  const wait = (ms: number) => new Promise<void>((done) => void scheduler.after(ms, done));
  await wait(86_400_000);
  expect(scheduler.now()).toBe(86_400_000);
  await pause(20);
  scheduler.catchUp();
  expect(scheduler.now()).toBe(86_400_000);
  const order: string[] = [];
  await Promise.all([wait(20).then(() => order.push('later')), wait(10).then(() => order.push('sooner'))]);
  expect([order, scheduler.now()]).toEqual([['sooner', 'later'], 86_400_020]);
  scheduler.stop();
});

test('what is due soon runs in one go, each at its own time, unless somebody outside may be measuring', async () => {
  const turns = async () => {
    for (let turn = 0; turn < 9; turn += 1) await new Promise((done) => setImmediate(done));
  };
  // a thousandth: what has to wait for its moment waits for half a minute
  for (const isWatched of [false, true]) {
    const scheduler = startScheduler(0.001);
    if (isWatched) scheduler.catchUp();
    const ran: number[] = [];
    for (const ms of [10, 30, 60]) scheduler.after(ms, () => ran.push(Math.round(scheduler.now())));
    await turns();
    expect([isWatched, ran]).toEqual([isWatched, isWatched ? [] : [10, 30]]);
    scheduler.stop();
  }
});

test('time from outside never passes an event, nor runs back', async () => {
  const scheduler = startScheduler(1);
  const at: [string, number][] = [];
  scheduler.after(40, () => at.push(['planned before', scheduler.now()]));
  const start = scheduler.now();
  // busy: the event is due, and nothing has run yet
  for (const end = performance.now() + 60; performance.now() < end;);
  scheduler.catchUp();
  expect(scheduler.now()).toBe(start + 40);
  scheduler.after(0, () => at.push(['planned after', scheduler.now()]));
  scheduler.catchUp();
  expect(scheduler.now()).toBe(start + 40);
  await new Promise<void>((done) => void scheduler.after(5, done));
  expect(at).toEqual([
    ['planned before', start + 40],
    ['planned after', start + 40],
  ]);
  scheduler.stop();
});
