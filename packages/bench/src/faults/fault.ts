import type { Site } from '../site/site.ts';
import type { Standin } from '../units/standin.ts';

/** One kind of fault: where it makes sense, what it does, and what mends it. Each has its file in `kinds`. */
interface Recipe<Place, Before> {
  /** Where exactly it would sit at a unit, or in words why it makes no sense there. */
  readonly fits: (site: Site, unit: Standin) => Place | string;
  /** Breaks it and answers what mending needs to know. */
  readonly set: (place: Place, site: Site, unit: Standin) => Before;
  /** Takes back what it changed, and nothing else. */
  readonly mend: (before: Before, place: Place, site: Site, unit: Standin) => void;
  /** Shows on a link whichever of its two units it sits at, so that a rehearsal may hide it. */
  readonly mayHide: boolean;
  /** A unit that may be named for it beside the one at which it was set. */
  readonly isAlsoAt?: (place: Place) => Standin;
  /** Sits in cables and switches: links come up or go down, and a new plan, which replaces these, has it set again. */
  readonly inWiring: boolean;
}

/** A fault that is set: what mends it, and the units that are right answers to where it is. */
export interface Broken {
  readonly mend: () => void;
  readonly at: readonly string[];
}

/** A kind as its users see it: set, or in words why it cannot be set. */
export interface FaultKind {
  readonly set: (site: Site, unit: Standin) => Broken | string;
  readonly mayHide: boolean;
  readonly inWiring: boolean;
}

export const faultKind = <Place extends object, Before>({
  fits,
  set,
  mend,
  mayHide,
  inWiring,
  isAlsoAt,
}: Recipe<Place, Before>): FaultKind => ({
  mayHide,
  inWiring,
  set: (site, unit) => {
    const place = fits(site, unit);
    if (typeof place === 'string') return place;
    const before = set(place, site, unit);
    const also = isAlsoAt ? [isAlsoAt(place).device.id] : [];
    return { mend: () => mend(before, place, site, unit), at: [unit.device.id, ...also] };
  },
});
