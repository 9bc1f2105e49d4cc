import { memoFor } from '../show/index.ts';
import type { AddressingFacts, NetworkFacts, Planned } from './facts.ts';

/**
 * Why placement may not use an address; undefined when it is free. Taken addresses count over all networks, since
 * two overlapping networks share a wire more often than anybody plans.
 */
export type Obstacle = 'outside' | 'not_granted' | 'gateway' | 'pool' | 'reserved' | 'factory' | 'taken';

export function obstacleAt(facts: AddressingFacts, on: NetworkFacts, ip: number): Obstacle | undefined {
  if (ip < on.first || ip > on.last) return 'outside';
  if (on.granted.length > 0 && !isIn(on.granted, ip)) return 'not_granted';
  if (on.gateway === ip || facts.gateways.has(ip)) return 'gateway';
  if (on.pool && ip >= on.pool.from && ip <= on.pool.to) return 'pool';
  if (isIn(on.reserved, ip)) return 'reserved';
  if (facts.factory.has(ip)) return 'factory';
  return facts.takers.has(ip) ? 'taken' : undefined;
}

/** Asked for every host of a network, so without a closure each time. */
function isIn(ranges: readonly { readonly from: number; readonly to: number }[], ip: number): boolean {
  for (const { from, to } of ranges) if (ip >= from && ip <= to) return true;
  return false;
}

type Span = NetworkFacts['blocks'][number];

/** The narrowest block that names each kind, then the one with the lowest id. */
const blocksFor = memoFor((blocks: NetworkFacts['blocks']): ReadonlyMap<string, Span> => {
  const first = new Map<string, Span>();
  const narrowest = blocks
    .filter(({ block }) => block.use === 'place')
    .sort((a, b) => a.to - a.from - (b.to - b.from) || (a.block.id < b.block.id ? -1 : 1));
  for (const span of narrowest) for (const kind of span.block.kinds) if (!first.has(kind)) first.set(kind, span);
  return first;
});

/** The block that a kind of gear belongs in: one that names the kind, the narrowest if several do, then the lowest id. */
export const blockFor = (on: NetworkFacts, kind: Planned['type']['kind']): Span | undefined =>
  blocksFor(on.blocks).get(kind);

/** May a unit have its planned address as a fixed one: inside its network, free of everything, and nobody else's? */
export function isPlaceable(facts: AddressingFacts, { ip, network }: Planned): boolean {
  const on = facts.byNetwork.get(network.id);
  if (ip === null || !on) return false;
  const obstacle = obstacleAt(facts, on, ip);
  return obstacle === undefined || (obstacle === 'taken' && facts.takers.get(ip)?.length === 1);
}
