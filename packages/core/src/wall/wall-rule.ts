import { ruleOf, type Codes, type Looks, type Rule, type Says } from '../findings/index.ts';
import type { Show } from '../show/index.ts';

/** A rule of this room: what it finds in the walls of a show, and how that is said. */
export const wallRule = <Finds extends Codes>(says: Says<Finds>, looks: Looks<Finds, [Show]>): Rule<[Show]> =>
  ruleOf<Finds, [Show]>('wall', says, looks);

/** What a finding is about. */
export const subject = (id: string) => ({ table: 'walls' as const, id });
