import { analyse, links, show as core, type contract, type Show } from '@deep-patch/core';
import { typeLibrary } from '@deep-patch/demo';
import { afterEach, expect, test } from 'vitest';
import { Bench } from './bench.ts';
import { jobPasswords, jobs, jobShow } from './jobs.test-data.ts';
import { dice } from './rigs/dice.test-data.ts';

const open: Bench[] = [];
afterEach(() => open.splice(0).forEach((bench) => bench.stop()));

test('there are twenty jobs, and together they use every type that controls or is controlled', () => {
  expect(jobs).toHaveLength(20);
  const used = new Set(jobs.flatMap(({ gear }) => gear.map((line) => /: (\S+)/.exec(line)?.[1])));
  const idle = typeLibrary.filter(
    ({ model, services, drives }) => services.length + drives.length > 0 && !used.has(model),
  );
  expect(idle.map(({ model }) => model)).toEqual([]);
});

test.each(jobs)(
  '$job: from shipped types alone to the bottom, through firewalls that let in what the list says',
  async (job) => {
    const show = jobShow(job);
    const { soundings } = analyse(show, core.nothingSeen, 0);
    const foreseen = [...soundings.values()].map(({ stopsAt }) => stopsAt && `${stopsAt.layer} ${stopsAt.code}`);
    expect(foreseen).toEqual(job.links.map(() => undefined));
    const { bench, ends } = await rehearsed(show);
    expect(await ends()).toEqual(job.links.map(() => 'bottom'));
    const rules = links.firewallRules(show).filter(({ direction }) => direction === 'in');
    const guarded = [...new Set(rules.map(({ machine }) => machine.id))];
    for (const deviceId of guarded) await act(bench, show, { act: 'firewall', deviceId, on: true });
    const allowed = rules.map((rule) => allowing(show, rule));
    // a controller sends from where it hears replies, and those come in as answers; what comes unasked does not
    const isKeptOut = allowed.some((wanted) => wanted.act === 'allow' && isMissed(show, wanted));
    expect((await ends()).some((end) => end !== 'bottom')).toBe(isKeptOut);
    for (const wanted of allowed) await act(bench, show, wanted);
    expect(await ends()).toEqual(job.links.map(() => 'bottom'));
  },
);

const act = (bench: Bench, { id: showId }: Show, wanted: contract.BenchAct) =>
  bench.handle({ kind: 'act', showId, wanted });

/** What is ticked at a firewall for one line of the list: a service by its port, or the replies that a program hears. */
function allowing(show: Show, { program, port }: links.FirewallRule): contract.BenchAct {
  const device = core.rowsOf(show, 'devices').find(({ name }) => name === program);
  const service = core.rowsOf(show, 'services').find(({ deviceId, receivePort, key }) => {
    const isMidi = core.serviceTypeOf(show, device, key)?.protocol === 'midi';
    return deviceId === device?.id && (port === receivePort || (isMidi && port === receivePort + 1));
  });
  return { act: 'allow', deviceId: device?.id ?? '', serviceKey: service?.key ?? 'replies', on: true };
}

/** What never answers cannot be missed; a stream or a session says by itself that nobody is there. */
function isMissed(show: Show, { deviceId, serviceKey }: { deviceId: string; serviceKey: string }): boolean {
  const type = core.serviceTypeOf(show, show.devices[deviceId], serviceKey);
  return type !== undefined && (type.protocol !== 'osc' || type.commands.some(({ reply }) => reply !== null));
}

/** A show on the bench, everything switched on, and where each of its links ends. */
async function rehearsed(show: Show) {
  const bench = new Bench(400, dice(7));
  open.push(bench);
  await bench.handle({ kind: 'load', plan: { show, passwords: jobPasswords } });
  await bench.handle({ kind: 'power', showId: show.id, deviceIds: Object.keys(show.devices), on: true });
  const ends = async (): Promise<string[]> => {
    const all: string[] = [];
    for (const { id } of core.rowsOf(show, 'links')) {
      const sounding = await bench.handle({ kind: 'sound', showId: show.id, linkId: id });
      const { layers } = sounding as core.MeasuredSounding;
      const stops = layers.filter(({ state }) => state === 'fail').map(({ layer, code }) => `${layer} ${code}`);
      all.push(stops.join() || 'bottom');
    }
    return all;
  };
  return { bench, ends };
}
