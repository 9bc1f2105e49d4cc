import { addressing, links as room, show as core, type Show } from '@deep-patch/core';
import { expect, test } from 'vitest';
import { demoShow } from '../harbour-finals.ts';
import { randomRig, rotatingSeed } from './index.test-data.ts';

/** Every run and every unit taken out one by one, everything worked out anew: slow, and certain. */
function byTrying(show: Show): Map<string, readonly string[]> {
  const facts = room.linkFacts(show, addressing.addressingFacts(show), () => ({ change: undefined }));
  const reaching = core.rowsOf(show, 'links').filter((link) => !room.forecast(show, facts, link).stopsAt);
  const hosts = (link: core.Link) =>
    [link.controllerId, link.targetId].flatMap((id) => {
      const device = show.devices[id];
      return device ? [core.hostOf(show, device).id] : [];
    });
  const found = new Map<string, readonly string[]>();
  const losses = [
    ...core.rowsOf(show, 'cables').map(({ id }) => ['run', id] as const),
    ...core.rowsOf(show, 'devices').map(({ id }) => ['unit', id] as const),
    ...[...circuitsOf(show).keys()].map((circuit) => ['circuit', circuit] as const),
  ];
  for (const [kind, id] of losses) {
    const dark = kind === 'run' ? [] : kind === 'unit' ? [id] : (circuitsOf(show).get(id) ?? []).map((unit) => unit.id);
    const off = reaching.filter((link) => hosts(link).some((host) => dark.includes(host))).map((link) => link.id);
    const runs = core
      .rowsOf(show, 'cables')
      .filter((cable) => cable.id === id || dark.includes(cable.fromDevice) || dark.includes(cable.toDevice));
    const stops = room.stopsWithout(show, facts, new Set(runs.map((run) => run.id)), reaching);
    const all = [...new Set([...off, ...stops])].sort();
    if (all.length > 0) found.set(`${kind} ${id}`, all);
  }
  return found;
}

const circuitsOf = (show: Show) =>
  core.groupBy(
    core.rowsOf(show, 'devices').filter(({ circuit }) => circuit !== ''),
    ({ circuit }) => circuit,
  );

function worked(show: Show): Map<string, readonly string[]> {
  const facts = room.linkFacts(show, addressing.addressingFacts(show), () => ({ change: undefined }));
  const losses = room.lossesOf(show, facts, room.forecastAll(show, facts));
  return new Map(losses.map(({ kind, id, stops }) => [`${kind} ${id}`, stops]));
}

const rigs = 80;
const usualSeed = 703_000_000;

test('what a loss takes down is what taking it out takes down, on random rigs', () => {
  const first = rotatingSeed(usualSeed);
  let [runs, losses] = [0, 0];
  for (let seed = first; seed < first + rigs; seed += 1) {
    const { show } = randomRig(seed);
    const wanted = byTrying(show);
    expect([seed, ...[...worked(show)].sort()]).toEqual([seed, ...[...wanted].sort()]);
    runs += 1;
    losses += wanted.size;
  }
  expect([runs, losses > rigs / 2]).toEqual([rigs, true]);
});

test('and on the demo, where most hangs on the switch in the middle', () => {
  const show = demoShow();
  expect([...worked(show)].sort()).toEqual([...byTrying(show)].sort());
  const facts = room.linkFacts(show, addressing.addressingFacts(show), () => ({ change: undefined }));
  const losses = room.lossesOf(show, facts, room.forecastAll(show, facts));
  const worst = losses.find(({ kind }) => kind === 'unit');
  expect([worst?.kind, worst?.id]).toEqual(['unit', 'switch-quay']);
});
