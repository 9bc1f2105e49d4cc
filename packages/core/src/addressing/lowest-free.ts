import { memo } from '../show/index.ts';
import type { AddressingFacts } from './planned.ts';
import { lowestHosts, rangesFor } from './free-ranges.ts';

/** Enough for one unit that moves, though it stands on one of them itself. */
const asMany = 3;

/**
 * The lowest free addresses by network and block. Many units that have to move ask for the same, and while those stay
 * free nothing changes for them.
 */
export function lowestFreeOf(facts: () => AddressingFacts): AddressingFacts['lowestFree'] {
  const lowest = memo((key) => {
    const [networkId = '', blockId = ''] = key.split('\n');
    const { byNetwork, takers, factory, gateways } = facts();
    const on = byNetwork.get(networkId);
    const block = on?.blocks.find((span) => span.block.id === blockId);
    const isFree = (ip: number): boolean => !takers.has(ip) && !factory.has(ip) && !gateways.has(ip);
    return on ? lowestHosts(rangesFor(on, block), asMany, isFree) : [];
  });
  return (networkId, blockId) => lowest(`${networkId}\n${blockId ?? ''}`);
}
