import { ruleOf, type Codes, type Finding, type Found, type Rule, type Says } from '../findings/index.ts';
import type { Show } from '../show/index.ts';
import type { AddressingFacts } from './facts.ts';
import type { Placement } from './plan-placement.ts';

/** What placing the waiting units of networks would do. */
export type Place = (networkIds: readonly string[]) => Placement;

/** A rule of this room: what it finds in addresses and networks, and how that is said. */
export const addressingRule = <Finds extends Codes>(
  says: Says<Finds>,
  find: (found: Found<Finds>, show: Show, facts: AddressingFacts, placement: Place) => readonly Finding[],
): Rule<[Show, AddressingFacts, Place]> => ruleOf<Finds, [Show, AddressingFacts, Place]>('addressing', says, find);
