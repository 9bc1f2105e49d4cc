import type { AddressingFacts } from '../addressing/index.ts';
import { ruleOf, type Codes, type Finding, type Found, type Rule, type Says } from '../findings/index.ts';
import type { Show } from '../show/index.ts';
import type { CablingFacts } from './segments.ts';

/** A rule of this room: what it finds in cables and sockets, and how that is said. */
export const cablingRule = <Finds extends Codes>(
  says: Says<Finds>,
  find: (found: Found<Finds>, show: Show, cabling: CablingFacts, addressing: AddressingFacts) => readonly Finding[],
): Rule<[Show, CablingFacts, AddressingFacts]> =>
  ruleOf<Finds, [Show, CablingFacts, AddressingFacts]>('cabling', says, find);
