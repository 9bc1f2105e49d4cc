import { addressing, cabling, links as room, show as core, type Show } from '@deep-patch/core';
import { expect, test } from 'vitest';
import { diceOf, rotatingSeed, type Dice } from './dice.test-data.ts';
import { switchRig } from './switch-rig.test-data.ts';

const factsOf = (show: Show) => room.linkFacts(show, addressing.addressingFacts(show), () => ({ change: undefined }));

function planned(show: Show, against: room.Against) {
  const facts = factsOf(show);
  return room.planFewestRuns(show, facts, room.forecastAll(show, facts), against);
}

interface Ends {
  readonly fromId: string;
  readonly toId: string;
}

/**
 * Every run that could be added: two units with a free socket, one of them a managed switch. With more than one VLAN a
 * unit or plain switch goes into its own switch again, or spanning tree might shut a run that carries them all.
 */
function possible(show: Show): Ends[] {
  const { freeSockets } = cabling.cablingFacts(show);
  const ids = core.rowsOf(show, 'devices').flatMap(({ id }) => (freeSockets(id).length > 0 ? [id] : []));
  const isManaged = (id: string) => core.typeOf(show, show.devices[id])?.managed === true;
  const isOne = Object.keys(show.networks).length === 1;
  const own = (id: string) => {
    const [near, seen, hubs] = [[id], new Set([id]), new Set<string>()];
    for (const at of near)
      for (const { fromDevice, toDevice } of core.rowsOf(show, 'cables')) {
        const far = fromDevice === at ? toDevice : toDevice === at ? fromDevice : undefined;
        if (far === undefined || seen.has(far)) continue;
        if (isManaged(far)) hubs.add(far);
        else near.push((seen.add(far), far));
      }
    return hubs;
  };
  const mayBe = (one: string, other: string) => {
    const [hub, unit] = isManaged(one) ? [one, other] : [other, one];
    const hubs = own(unit);
    if (!isManaged(hub)) return false;
    if (isManaged(unit)) return true;
    return hubs.size > 0 && (isOne || (hubs.size === 1 && hubs.has(hub)));
  };
  return ids.flatMap((fromId, at) =>
    ids.slice(at + 1).flatMap((toId) => (mayBe(fromId, toId) ? [{ fromId, toId }] : [])),
  );
}

/** The show with further runs, in the first sockets that are free; undefined where sockets run out. */
function withRuns(show: Show, ends: readonly Ends[]): Show | undefined {
  const nameOf = (id: string) => show.devices[id]?.name ?? '';
  const plan = cabling.planRuns(
    show,
    ends.map(({ fromId, toId }, at) => ({
      ...{ line: at + 1, fromId, toId, from: nameOf(fromId), to: nameOf(toId) },
      ...{ fromSocket: '', toSocket: '', medium: '', length: '', stage: '' },
    })),
  );
  return plan.ok && plan.change ? core.written(show, plan.change, show.rev + 1) : undefined;
}

/** Losses that stop a link which has to hold, each taken out and everything worked out anew. */
function stopping(show: Show, kind: room.Against, ids: readonly string[]): string[] {
  const facts = factsOf(show);
  const must = core.rowsOf(show, 'links').filter(({ mustHold }) => mustHold);
  const reaching = must.filter((link) => !room.forecast(show, facts, link).stopsAt);
  return ids.filter((id) => {
    const isEnd = (link: core.Link) => kind === 'unit' && [link.controllerId, link.targetId].includes(id);
    const others = reaching.filter((link) => !isEnd(link));
    return room.stopsWithout(show, facts, room.lostWith(show, [{ kind, id }]), others).length > 0;
  });
}

function* subsets<Item>(items: readonly Item[], size: number, from = 0): Generator<Item[]> {
  if (size === 0) yield [];
  else
    for (let at = from; at < items.length; at += 1)
      for (const rest of subsets(items, size - 1, at)) yield [items[at] as Item, ...rest];
}

const idsOf = (show: Show, kind: room.Against) =>
  kind === 'run'
    ? Object.keys(show.cables)
    : core.rowsOf(show, 'devices').flatMap(({ id }) => (core.typeOf(show, show.devices[id])?.forwards ? [id] : []));

function check(show: Show, kind: room.Against): { readonly runs: number; readonly prevented: number } {
  const plan = planned(show, kind);
  const before = stopping(show, kind, idsOf(show, kind));
  const left = new Set(plan.notPrevented.map(({ id }) => id));
  const prevented = before.filter((id) => !left.has(id));
  if (plan.change) {
    const after = core.written(show, plan.change, show.rev + 1);
    // a new run is never the only way, and nothing in a circle floods
    expect(stopping(after, kind, idsOf(after, kind)).filter((id) => !left.has(id))).toEqual([]);
    expect(cabling.cablingFacts(after).domains().loops).toEqual(cabling.cablingFacts(show).domains().loops);
  }
  if (plan.proven) expect(plan.atLeast).toBe(plan.runs.length);
  const ways = possible(show);
  for (let size = 0; size < plan.runs.length; size += 1)
    for (const ends of plan.proven ? subsets(ways, size) : []) {
      const less = withRuns(show, ends);
      if (size > 0 && !less) continue;
      const open = stopping(less ?? show, kind, prevented);
      if (open.length === 0)
        expect([
          show.id,
          kind,
          ends,
          'is enough',
          plan.runs.map(({ from, to }) => [from.device.id, to.device.id]),
        ]).toEqual([]);
    }
  // and what it says no run prevents, none does
  for (const { id } of plan.notPrevented.filter(({ why }) => why !== 'sockets_short'))
    for (const ends of subsets(ways, 1)) {
      const more = withRuns(show, ends);
      if (more) expect([ends, id, stopping(more, kind, [id])]).toEqual([ends, id, [id]]);
    }
  return { runs: plan.runs.length, prevented: prevented.length };
}

const small = (dice: Dice) => switchRig(dice, { switches: 2 + dice.below(4), desks: 1 + dice.below(3) });

const rigsEach = 30;

test.each(['run', 'unit'] as const)(
  'the fewest runs against losing one %s: no smaller set does, on small rigs',
  (kind) => {
    const first = rotatingSeed(810_000_000);
    let [rigs, withSome, withTwo] = [0, 0, 0];
    for (let seed = first; seed < first + rigsEach; seed += 1) {
      const found = check(small(diceOf(seed)), kind);
      rigs += 1;
      withSome += Number(found.runs > 0);
      withTwo += Number(found.runs > 1);
    }
    expect([rigs, withSome > rigsEach / 4, withTwo > 2]).toEqual([rigsEach, true, true]);
  },
  120_000,
);

test('on large trees of managed switches it takes half the leaves, rounded up', () => {
  const first = rotatingSeed(820_000_000);
  let rigs = 0;
  for (let seed = first; seed < first + 5; seed += 1) {
    const dice = diceOf(seed);
    const show = switchRig(dice, { switches: 20 + dice.below(40), desks: 60, roomy: true });
    const plan = planned(show, 'run');
    const degree = core.groupBy(
      core.rowsOf(show, 'cables').flatMap(({ fromDevice, toDevice }) => [fromDevice, toDevice]),
      (id) => id,
    );
    const isSwitch = (id: string) => core.typeOf(show, show.devices[id])?.forwards === true;
    const between = core
      .rowsOf(show, 'cables')
      .filter(({ fromDevice, toDevice }) => isSwitch(fromDevice) && isSwitch(toDevice));
    const leaves = [...degree.keys()].filter(
      (id) => isSwitch(id) && between.filter((run) => [run.fromDevice, run.toDevice].includes(id)).length === 1,
    );
    const half = Math.ceil(leaves.length / 2);
    expect([seed, plan.runs.length, plan.atLeast]).toEqual([seed, half, half]);
    expect(plan.notPrevented.every(({ why }) => why === 'no_socket')).toBe(true);
    rigs += 1;
  }
  expect(rigs).toBe(5);
}, 120_000);
