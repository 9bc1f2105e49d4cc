import { ruleOf, type Codes, type Finding, type Found, type Rule, type Says } from '../findings/index.ts';
import type { Show } from '../show/index.ts';
import type { RigFacts } from './facts.ts';

/** A rule of this room: what it finds in the units of a show, and how that is said. */
export const rigRule = <Finds extends Codes>(
  says: Says<Finds>,
  find: (found: Found<Finds>, show: Show, facts: RigFacts) => readonly Finding[],
): Rule<[Show, RigFacts]> => ruleOf<Finds, [Show, RigFacts]>('rig', says, find);
