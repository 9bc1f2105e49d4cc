import { byName } from '../show/index.ts';
import type { Work } from './work.ts';
import { spotKey } from './tasks.ts';
import { isHostAddress } from './unit-now.ts';
import { hostIdOf, leavesSpot, type UnitPlan } from './unit-plan.ts';

/** Steps without which nothing more can be done at a unit. */
const carrying: ReadonlySet<string> = new Set(['join', 'sign_in', 'meantime', 'meantime_restart', 'key_in', 'restart']);

/** Units whose steps were skipped or failed, those that cannot be set at all, and those that wait for them in vain. */
export function leaveOut(work: Work): void {
  for (const plan of work.crowd.units.values()) {
    const { device, now } = plan;
    const isLeft = now.progress?.left.some(({ step }) => carrying.has(step.split(':')[0] ?? ''));
    if (isLeft) work.crowd.block(device.id, 'left_out');
    else if (plan.lines.length > 0 && plan.type.ways.length > 0 && work.reach.accessTo(plan, now.at).length === 0)
      work.crowd.block(device.id, 'no_way');
    else if (plan.isProgram && isHomeless(work, plan)) work.crowd.block(device.id, 'no_computer');
    else if (
      plan.planned.some(
        (item) =>
          item.ip !== null && item.address.method === 'static' && !isHostAddress({ ip: item.ip, prefix: item.prefix }),
      )
    )
      work.crowd.block(device.id, 'not_a_host');
    else if (plan.planned.some(({ ip, address }) => ip === null && address.method === 'static'))
      work.crowd.blocked.push({ deviceId: device.id, code: 'not_placed', units: [] });
  }
  for (const [first, ...others] of doubles(work))
    for (const plan of others) work.crowd.block(plan.device.id, 'planned_twice', first ? [first.device.id] : []);
  const { addressing, computer } = work.ground;
  // wherever the computer goes it may have its own address with it
  const mine = new Set((addressing.byDevice.get(computer.id) ?? []).map(({ ip }) => ip));
  for (const plan of work.crowd.units.values())
    if (!work.crowd.out.has(plan.device.id) && plan.takes.some(({ ip }) => mine.has(ip)))
      work.crowd.block(plan.device.id, 'planned_twice', [computer.id]);
  // whoever holds an address for good keeps others from it, and those keep others again
  for (let before = -1; before !== work.crowd.out.size;) {
    before = work.crowd.out.size;
    for (const plan of work.crowd.units.values())
      if (
        plan.isProgram &&
        !work.crowd.out.has(plan.device.id) &&
        work.crowd.out.has(hostIdOf(work.ground.show, plan.device))
      )
        work.crowd.block(plan.device.id, 'no_computer', [hostIdOf(work.ground.show, plan.device)]);
    for (const plan of work.crowd.units.values()) {
      if (work.crowd.out.has(plan.device.id) || !work.crowd.moves(plan)) continue;
      const holders = work.crowd
        .holdersOf(plan)
        .filter((other) => work.crowd.out.has(other.device.id) || !leavesSpot(other));
      const standing = holders.filter(({ now, device }) => now.joined || !work.crowd.out.has(device.id));
      if (standing.length > 0)
        work.crowd.block(
          plan.device.id,
          'held_for_good',
          standing.map(({ device }) => device.id),
        );
    }
  }
}

/** It runs on no computer, or on one that is not set itself. */
function isHomeless(work: Work, { device }: UnitPlan): boolean {
  const { show, computer } = work.ground;
  const host = hostIdOf(show, device);
  return host === device.id || (host !== computer.id && !work.crowd.units.has(host));
}

/** Units that are planned on one address: whoever is there already goes first, else the first by name. */
function doubles(work: Work): UnitPlan[][] {
  const byKey = new Map<string, UnitPlan[]>();
  for (const plan of work.crowd.units.values())
    for (const spot of plan.isProgram ? [] : plan.takes) {
      const there = byKey.get(spotKey(spot)) ?? [];
      there.push(plan);
      byKey.set(spotKey(spot), there);
    }
  const isThere = (plan: UnitPlan): number => Number(work.crowd.moves(plan));
  return [...byKey.values()]
    .map((list) => [...new Set(list)].filter(({ device }) => !work.crowd.out.has(device.id)))
    .filter((list) => list.length > 1)
    .map((list) => list.sort((a, b) => isThere(a) - isThere(b) || byName(a.device, b.device)));
}
