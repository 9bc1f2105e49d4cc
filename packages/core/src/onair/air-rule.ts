import { ruleOf, type Codes, type Looks, type Rule, type Says } from '../findings/index.ts';
import type { Show } from '../show/index.ts';

/** A rule of this room: what it finds in what goes on air, and how that is said. */
export const airRule = <Finds extends Codes>(says: Says<Finds>, looks: Looks<Finds, [Show]>): Rule<[Show]> =>
  ruleOf<Finds, [Show]>('onair', says, looks);
