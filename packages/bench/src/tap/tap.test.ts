import { afterEach, expect, test } from 'vitest';
import { demoBench, stopBenches } from '../demo-bench.test-data.ts';

afterEach(stopBenches);

test('running time code is a line a second, so that it drowns nothing; the capture keeps every frame', async () => {
  const { site } = await demoBench();
  const { scheduler, tap, standins } = site();
  let packets = 0;
  const pass = (ms: number) => new Promise<void>((done) => void scheduler.after(ms, done));
  await site().settled();
  await pass(1000);
  standins.get('timecode')?.host.watchSent(() => (packets += 1));
  const from = tap.last(1)[0]?.at ?? 0;
  await pass(10_000);
  const lines = tap.last(5000).filter(({ at, fromId }) => at > from && fromId === 'timecode');
  expect(packets).toBeGreaterThan(400);
  expect(lines.filter(({ text }) => text === 'time code is running').length).toBeGreaterThanOrEqual(9);
  expect(lines.length).toBeLessThan(30);
  expect(tap.capture('all').length).toBeGreaterThan(packets * 60);
});
