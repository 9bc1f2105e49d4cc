import { analyse, show as core } from '@deep-patch/core';
import { typeLibrary } from '@deep-patch/demo';
import { afterEach, expect, test } from 'vitest';
import { Bench } from './bench.ts';
import { jobPasswords, jobs, jobShow } from './jobs.test-data.ts';
import { dice } from './rigs/dice.test-data.ts';

const open: Bench[] = [];
afterEach(() => open.splice(0).forEach((bench) => bench.stop()));

test('there are nineteen jobs, and together they use every type that controls or is controlled', () => {
  expect(jobs).toHaveLength(19);
  const used = new Set(jobs.flatMap(({ gear }) => gear.map((line) => /: (\S+)/.exec(line)?.[1])));
  const idle = typeLibrary.filter(
    ({ model, services, drives }) => services.length + drives.length > 0 && !used.has(model),
  );
  expect(idle.map(({ model }) => model)).toEqual([]);
});

test.each(jobs)('$job: set up from shipped types alone, foreseen and on the bench to the bottom', async (job) => {
  const show = jobShow(job);
  const { soundings } = analyse(show, core.nothingSeen, 0);
  const foreseen = [...soundings.values()].map(({ stopsAt }) => stopsAt && `${stopsAt.layer} ${stopsAt.code}`);
  expect(foreseen).toEqual(job.links.map(() => undefined));
  const bench = new Bench(400, dice(7));
  open.push(bench);
  await bench.handle({ kind: 'load', plan: { show, passwords: jobPasswords } });
  await bench.handle({ kind: 'power', showId: show.id, deviceIds: Object.keys(show.devices), on: true });
  const ends: string[] = [];
  for (const { id } of core.rowsOf(show, 'links')) {
    const sounding = await bench.handle({ kind: 'sound', showId: show.id, linkId: id });
    const { layers } = sounding as core.MeasuredSounding;
    ends.push(
      layers
        .filter(({ state }) => state === 'fail')
        .map(({ layer, code }) => `${layer} ${code}`)
        .join() || 'bottom',
    );
  }
  expect(ends).toEqual(job.links.map(() => 'bottom'));
});
