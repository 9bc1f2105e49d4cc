import { ruleOf, type Codes, type Looks, type Rule, type Says } from '../findings/index.ts';
import type { Show } from '../show/index.ts';

/** A rule of this room: what it finds in what controls do, and how that is said. */
export const surfaceRule = <Finds extends Codes>(says: Says<Finds>, looks: Looks<Finds, [Show]>): Rule<[Show]> =>
  ruleOf<Finds, [Show]>('surfaces', says, looks);
