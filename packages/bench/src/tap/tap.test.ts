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
  expect(lines.filter(({ text }) => /^time code 00:00:\d\d:\d\d, 25 frames$/.test(text)).length).toBeGreaterThanOrEqual(
    9,
  );
  expect(new Set(lines.flatMap(({ as }) => as ?? []))).toEqual(new Set(['time code']));
  expect(lines.length).toBeLessThan(30);
  const { hex, layers } = tap.anatomy(lines.at(-1)?.frame ?? -1) ?? { hex: '', layers: [] };
  expect(layers.map(({ name }) => name)).toEqual(expect.arrayContaining(['Ethernet', 'IPv4', 'UDP', 'RTP', 'MIDI']));
  expect(layers.flatMap(({ parts }) => parts).reduce((sum, { length }) => sum + length, 0)).toBe(hex.length / 2);
  expect(tap.anatomy(1e9)).toBeUndefined();
  expect(tap.capture('all').length).toBeGreaterThan(packets * 60);
});
