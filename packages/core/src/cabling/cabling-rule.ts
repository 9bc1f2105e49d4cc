import type { AddressingFacts } from '../addressing/index.ts';
import { ruleOf, type Codes, type Looks, type Rule, type Says } from '../findings/index.ts';
import type { Show } from '../show/index.ts';
import type { SegmentMembers } from './segment-members.ts';
import type { CablingFacts } from './segments.ts';

/** A rule of this room: what it finds in cables and sockets, and how that is said. */
export const cablingRule = <Finds extends Codes>(
  says: Says<Finds>,
  looks: Looks<Finds, [Show, CablingFacts, AddressingFacts, SegmentMembers]>,
): Rule<[Show, CablingFacts, AddressingFacts, SegmentMembers]> =>
  ruleOf<Finds, [Show, CablingFacts, AddressingFacts, SegmentMembers]>('cabling', says, looks);
