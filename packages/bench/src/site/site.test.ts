import { demoPasswords, demoShow } from '@deep-patch/demo';
import { casesOf } from '@deep-patch/core/cases';
import { afterEach, expect, test } from 'vitest';
import { startScheduler, type Scheduler } from '../ether/scheduler.ts';
import { Site } from './site.ts';

const running: Scheduler[] = [];
afterEach(() => running.splice(0).forEach((scheduler) => scheduler.stop()));

const changes = casesOf(100);

test(`after ${changes} saved changes each bridge says hello as often as at first: nothing of earlier sites goes on`, async () => {
  const scheduler = startScheduler(1000);
  running.push(scheduler);
  const plan = { show: demoShow(), passwords: demoPasswords };
  const site = new Site(plan, scheduler, () => 0.5);
  site.power([...site.standins.keys()], true);
  const pass = (ms: number) => new Promise<void>((done) => void scheduler.after(ms, done));
  const hellosIn12s = async () => {
    await pass(4000);
    let count = 0;
    const take = site.tap.take.bind(site.tap);
    site.tap.take = (frame) => {
      if (frame.body.kind === 'bpdu' && !frame.body.change) count += 1;
      take(frame);
    };
    await pass(12_000);
    site.tap.take = take;
    return count;
  };
  const before = await hellosIn12s();
  for (let change = 0; change < changes; change += 1) site.load({ ...plan, show: { ...plan.show, rev: change + 2 } });
  const after = await hellosIn12s();
  expect(before).toBeGreaterThan(10);
  expect(Math.abs(after - before)).toBeLessThan(before / 4);
});
