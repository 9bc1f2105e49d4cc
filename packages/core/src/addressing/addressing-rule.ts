import { ruleOf, type Codes, type Looks, type Rule, type Says } from '../findings/index.ts';
import type { Show } from '../show/index.ts';
import type { AddressingFacts } from './facts.ts';
import type { Placement } from './plan-placement.ts';

/** What placing the waiting units of networks would do. */
export type Place = (networkIds: readonly string[]) => Placement;

/** A rule of this room: what it finds in addresses and networks, and how that is said. */
export const addressingRule = <Finds extends Codes>(
  says: Says<Finds>,
  looks: Looks<Finds, [Show, AddressingFacts, Place]>,
): Rule<[Show, AddressingFacts, Place]> => ruleOf<Finds, [Show, AddressingFacts, Place]>('addressing', says, looks);
