import { addressing, type contract, links, show as core, type Show } from '@deep-patch/core';
import { diceOf, rotatingSeed, switchRig } from '@deep-patch/demo/rigs';
import { expect, test } from 'vitest';
import { startScheduler } from '../ether/scheduler.ts';
import { Site } from '../site/site.ts';
import { pullEach } from './pull-each.ts';

async function onBench<Result>(show: Show, work: (site: Site) => Promise<Result>): Promise<Result> {
  const scheduler = startScheduler(Infinity);
  try {
    const site = new Site({ show, passwords: {} }, scheduler, () => 0.5, 0);
    site.power(Object.keys(show.devices), true);
    return await work(site);
  } finally {
    scheduler.stop();
  }
}

const factsOf = (show: Show) => links.linkFacts(show, addressing.addressingFacts(show), () => ({ change: undefined }));

async function pulledOn(show: Show, isStopped = () => false): Promise<contract.PulledRun[]> {
  return onBench(show, async (site) => {
    let results: readonly contract.PulledRun[] = [];
    const [runIds, linkIds] = [Object.keys(show.cables), Object.keys(show.links)];
    await pullEach({ site, runIds, linkIds, isStopped, tell: (progress) => (results = progress.results) });
    expect([...site.cables.values()].filter(({ cable }) => cable.cut)).toEqual([]);
    return [...results];
  });
}

test('pulling each run stops what the plan foretells, and with the fewest further runs nothing that they prevent', async () => {
  const first = rotatingSeed(830_000_000);
  let [rigs, prevented] = [0, 0];
  for (let seed = first; seed < first + 10; seed += 1) {
    const dice = diceOf(seed);
    const show = switchRig(dice, { switches: 2 + dice.below(4), desks: 1 + dice.below(3) });
    const facts = factsOf(show);
    const soundings = links.forecastAll(show, facts);
    const stops = (of: readonly links.Loss[]) =>
      new Map(of.flatMap((loss) => (loss.kind === 'run' ? [[loss.id, loss.stops]] : [])));
    const foretold = stops(links.lossesOf(show, facts, soundings));
    for (const { cableId, stops: stopped } of await pulledOn(show))
      expect([seed, cableId, stopped]).toEqual([seed, cableId, foretold.get(cableId) ?? []]);
    const plan = links.planFewestRuns(show, facts, soundings, 'run');
    rigs += 1;
    if (!plan.change) continue;
    const left = new Set(plan.notPrevented.map(({ id }) => id));
    const more = await pulledOn(core.written(show, plan.change, 2));
    expect([seed, more.filter(({ cableId, stops: open }) => open.length > 0 && !left.has(cableId))]).toEqual([
      seed,
      [],
    ]);
    prevented += plan.before - left.size;
  }
  expect([rigs, prevented > 10]).toEqual([10, true]);
}, 120_000);

test('stopped, it leaves every run plugged in; a run that somebody else pulled stays out', async () => {
  const show = switchRig(diceOf(5), { switches: 3, desks: 3 });
  let asked = 0;
  const results = await pulledOn(show, () => (asked += 1) > 12);
  expect(results.length).toBeLessThan(Object.keys(show.cables).length);
  await onBench(show, async (site) => {
    const [runIds, linkIds] = [Object.keys(show.cables), Object.keys(show.links)];
    const [out = ''] = runIds;
    const cable = site.cables.get(out)?.cable ?? expect.fail('no run');
    cable.cut = true;
    const seen: string[] = [];
    await pullEach({
      ...{ site, runIds, linkIds, isStopped: () => false },
      tell: ({ results: known }) => void seen.splice(0, seen.length, ...known.map(({ cableId }) => cableId)),
    });
    expect([cable.cut, seen]).toEqual([true, runIds.slice(1)]);
  });
});

test('built anew for the other stage, the site ends the pulling, and nothing stays out', async () => {
  const show = switchRig(diceOf(5), { switches: 3, desks: 3 });
  await onBench(show, async (site) => {
    const [runIds, linkIds] = [Object.keys(show.cables), Object.keys(show.links)];
    let done = 0;
    await pullEach({
      ...{ site, runIds, linkIds, isStopped: () => false },
      tell: (progress) => {
        ({ done } = progress);
        if (done === 2) site.changeOver('setup');
      },
    });
    expect([done, [...site.cables.values()].filter(({ cable }) => cable.cut).length]).toEqual([2, 0]);
  });
});

test('changed over, the runs of the other time are out, and the plan stays whole', async () => {
  const show = switchRig(diceOf(6), { switches: 2, desks: 2 });
  const [one, other] = Object.values(show.cables);
  if (!one || !other) throw new Error('no runs');
  const staged = {
    ...show,
    cables: {
      ...show.cables,
      [one.id]: { ...one, stage: 'setup' as const },
      [other.id]: { ...other, stage: 'show' as const },
    },
  };
  await onBench(staged, async (site) => {
    const there = () => [
      site.cables.has(one.id),
      site.cables.has(other.id),
      Object.keys(site.given.show.cables).length,
    ];
    const all = Object.keys(show.cables).length;
    expect(there()).toEqual([false, true, all]);
    site.changeOver('setup');
    expect(there()).toEqual([true, false, all]);
    site.load(site.given);
    expect(there()).toEqual([true, false, all]);
    await Promise.resolve();
  });
});
