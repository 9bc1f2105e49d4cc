import { ruleOf, type Codes, type Looks, type Rule, type Says } from '../findings/index.ts';
import type { Show } from '../show/index.ts';
import type { RigFacts } from './facts.ts';

/** A rule of this room: what it finds in the units of a show, and how that is said. */
export const rigRule = <Finds extends Codes>(
  says: Says<Finds>,
  looks: Looks<Finds, [Show, RigFacts]>,
): Rule<[Show, RigFacts]> => ruleOf<Finds, [Show, RigFacts]>('rig', says, looks);
