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

/** What has to pass for a link: there, back, the answer, and the leases of those that are given an address. */
export function legsOf({ machines }: LinkFacts, { there, back, answer }: Ends): Leg[] {
  const hops = [there, back, answer].flatMap((walk) =>
    (walk?.hops ?? []).map((hop): Leg => ({ ...hop, mayDoWithout: walk === answer })),
  );
  const leases = hops.flatMap(({ from, to }) =>
    [from, to].flatMap((held): Leg[] => {
      const server = held.leasedBy === undefined ? undefined : machines.of(held.leasedBy);
      const leg = server?.held.find(({ domain }) => domain !== undefined && domain === held.domain);
      return leg ? [{ from: held, to: leg, mayDoWithout: true }] : [];
    }),
  );
  return [...hops, ...leases];
}

/** The node of a run graph that an address sits on. */
export const nodeOf = (show: Show, { machineId, adapter }: Held): string =>
  typeOf(show, show.devices[machineId])?.forwards ? machineId : `${machineId}/${adapter}`;
