import { mustIp, type AddressingFacts } from '../addressing/index.ts';
import type { Work } from './work.ts';
import type { Place } from './unit-now.ts';
import type { UnitPlan } from './unit-plan.ts';

/** Units that need an address for the meantime, since everybody in a circle waits for the next. */
export function circlesBroken(work: Work): ReadonlyMap<string, Place> {
  const meantime = new Map<string, Place>();
  for (const plan of work.crowd.units.values()) {
    const place = meantimeOf(plan);
    if (place) meantime.set(plan.device.id, place);
  }
  const state = new Map<string, 'open' | 'closed'>();
  const visit = (plan: UnitPlan): void => {
    state.set(plan.device.id, 'open');
    for (const holder of work.crowd.holdersOf(plan)) {
      const { id } = holder.device;
      if (work.crowd.out.has(id) || meantime.has(id) || !work.crowd.moves(holder)) continue;
      if (state.get(id) === 'open') lend(work, holder, meantime);
      else if (state.get(id) === undefined) visit(holder);
    }
    state.set(plan.device.id, 'closed');
  };
  for (const plan of work.crowd.units.values())
    if (!work.crowd.out.has(plan.device.id) && work.crowd.moves(plan) && state.get(plan.device.id) === undefined)
      visit(plan);
  return meantime;
}

function lend(work: Work, plan: UnitPlan, meantime: Map<string, Place>): void {
  const first = plan.planned.find(({ ip }) => ip !== null);
  if (!first) return;
  const { addressing } = work.ground;
  const lent = new Set([...meantime.values()].map(({ ip }) => ip));
  const free = addressing
    .lowestFree(first.network.id, undefined)
    .concat(spareHosts(addressing, first.network.id))
    .find((ip) => !lent.has(ip) && !addressing.factory.has(ip) && !addressing.byIp.has(ip));
  if (free === undefined) return;
  meantime.set(plan.device.id, { ip: free, prefix: first.prefix });
}

/** An address for the meantime that is keyed in and does not count yet. */
export const meantimeOf = ({ now: { progress, due } }: UnitPlan): Place | undefined =>
  progress?.meantime && due.length > 0
    ? { ip: mustIp(progress.meantime.ip), prefix: progress.meantime.prefix }
    : undefined;

/** Hosts of a network from its end down, where crews rarely number anything. */
function spareHosts({ byNetwork }: AddressingFacts, networkId: string): number[] {
  const on = byNetwork.get(networkId);
  if (!on) return [];
  const count = Math.min(64, on.last - on.first + 1);
  const inPool = (ip: number) => on.pool !== null && ip >= on.pool.from && ip <= on.pool.to;
  return Array.from({ length: count }, (_, at) => on.last - at).filter((ip) => !inPool(ip) && ip !== on.gateway);
}
