import { groupBy } from '../../show/index.ts';
import type { AddressingFacts } from '../facts.ts';
import { blockFor } from '../free-hosts.ts';
import { freeRuns, rangesFor, without } from '../free-ranges.ts';
import type { Mover, PlacementTask } from './task.ts';

/**
 * Alike units that nothing asks for a certain address stand in one run, in the order of their names, where their block
 * has one that is long enough (C8): a run is said and checked as one. Which of the free addresses they have costs
 * nothing, so the assignment stays the cheapest.
 */
export function keptTogether(
  facts: AddressingFacts,
  { on, movers }: PlacementTask,
  ips: readonly (number | undefined)[],
): (number | undefined)[] {
  const result = [...ips];
  const free = movers.flatMap((mover, at) => (wantsNothing(mover) && ips[at] !== undefined ? [{ mover, at }] : []));
  const groups = groupBy(free, ({ mover: { domain, item } }) => `${domain.key} ${item.type.id}`);
  for (const own of groups.values()) {
    const places = own.map(({ at }) => result[at] ?? 0).sort((a, b) => a - b);
    if (own.length < 2 || isRun(places)) continue;
    const mine = new Set(own.map(({ at }) => at));
    const others = result.flatMap((ip, at) => (ip === undefined || mine.has(at) ? [] : [{ from: ip, to: ip }]));
    const ranges = rangesFor(on, blockFor(on, own[0]?.mover.item.type.kind ?? 'computer'));
    const run = freeRuns(facts, others.reduce(without, ranges)).find(({ from, to }) => to - from + 1 >= own.length);
    if (run) own.forEach(({ at }, n) => (result[at] = run.from + n));
  }
  return result;
}

const wantsNothing = ({ own, byUnit, figures }: Mover): boolean =>
  own === undefined && byUnit === undefined && figures.size === 0;

const isRun = (ips: readonly number[]): boolean => (ips.at(-1) ?? 0) - (ips[0] ?? 0) === ips.length - 1;
