import { typeOf, type Show } from '../show/index.ts';
import type { Ends, LinkFacts } from './ends.ts';
import type { Held } from './paths/held.ts';

/** Two places between which frames have to pass for a link to work. */
export interface Leg {
  readonly from: Held;
  readonly to: Held;
  /**
   * Something else may do without it: not every command waits for the answer that a unit sends where it was told to,
   * and another server may hand an address out.
   */
  readonly mayDoWithout: boolean;
}

/**
 * What has to pass for a link: there, back, the answer, and the leases of those that are given an address. A way that is
 * the same back as there stands once.
 */
export function legsOf({ machines }: LinkFacts, { there, back, answer, accepted }: Ends): Leg[] {
  const legs: Leg[] = [];
  for (const walk of [there, back, answer, accepted])
    for (const { from, to } of walk?.hops ?? []) addLeg(legs, from, to, walk === answer && !accepted);
  const ways = legs.length;
  for (let at = 0; at < ways; at += 1) {
    const leg = legs[at];
    if (!leg) continue;
    for (const held of [leg.from, leg.to]) {
      const server = held.leasedBy === undefined ? undefined : machines.of(held.leasedBy);
      const its = server?.held.find(({ domain }) => domain !== undefined && domain === held.domain);
      if (its) addLeg(legs, held, its, true);
    }
  }
  return legs;
}

function addLeg(legs: Leg[], from: Held, to: Held, mayDoWithout: boolean): void {
  for (const leg of legs)
    if (
      leg.mayDoWithout === mayDoWithout &&
      ((isSame(leg.from, from) && isSame(leg.to, to)) || (isSame(leg.from, to) && isSame(leg.to, from)))
    )
      return;
  legs.push({ from, to, mayDoWithout });
}

const isSame = (one: Held, other: Held): boolean =>
  one.machineId === other.machineId && one.adapter === other.adapter && one.tag === other.tag;

/** The node of a run graph that an address sits on. */
export const nodeOf = (show: Show, { machineId, adapter }: Held): string =>
  typeOf(show, show.devices[machineId])?.forwards ? machineId : `${machineId}/${adapter}`;
