import { formatIp, subnetOf } from '../addressing/index.ts';
import type { LinkFacts } from './ends.ts';
import { at, towards, walk } from './paths/walk.ts';

/** How a machine reaches an address once everything is as planned: from which subnet of its own, through which routers. */
export interface Routed {
  /** `10.61.20.0/24` */
  readonly from: string;
  readonly adapter: string;
  readonly routers: readonly string[];
}

/** Undefined where nothing gets there, or nothing comes back. */
export function routedWay(facts: LinkFacts, machineId: string, targetId: string, ip: number): Routed | undefined {
  const { machines, cabling } = facts;
  const [machine, target] = [machines.of(machineId), machines.of(targetId)];
  if (!machine || !target) return undefined;
  const context = { machines, domains: cabling.domains() };
  const there = walk(context, machine, at(ip), null);
  if (there.arrivedAt !== targetId || !there.source || there.chance) return undefined;
  const back = walk(context, target, towards(there.source), null);
  if (back.arrivedAt !== machineId || back.chance) return undefined;
  const { network } = subnetOf(there.source.from, there.source.prefix);
  return {
    from: `${formatIp(network)}/${there.source.prefix}`,
    adapter: there.source.adapter,
    routers: [...new Set([...there.routers, ...back.routers])],
  };
}
