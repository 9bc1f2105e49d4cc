import type { Site } from '../site/site.ts';
import type { Standin } from '../units/standin.ts';

/** One kind of fault: where it makes sense, what it does, and what mends it. Each has a file, and is listed in `all.ts`. */
interface Recipe<Place, Before> {
  /** Where exactly it would sit at a unit, or in words why it makes no sense there. */
  readonly fits: (site: Site, unit: Standin) => Place | string;
  /** Breaks it and answers what mending needs to know. */
  readonly set: (place: Place, site: Site, unit: Standin) => Before;
  /** Takes back what it changed, and nothing else. */
  readonly mend: (before: Before, place: Place, site: Site, unit: Standin) => void;
  /** Shows on a link whichever of its two units it sits at, so that a rehearsal may hide it. */
  readonly mayHide: boolean;
  /** Sits in cables and switches: links come up or go down, and a new plan, which replaces these, has it set again. */
  readonly inWiring: boolean;
}

/** A kind as its users see it: set, it answers what mends it, or in words why it cannot be set. */
export interface FaultKind {
  readonly set: (site: Site, unit: Standin) => (() => void) | string;
  readonly mayHide: boolean;
  readonly inWiring: boolean;
}

export const faultKind = <Place extends object, Before>({
  fits,
  set,
  mend,
  mayHide,
  inWiring,
}: Recipe<Place, Before>): FaultKind => ({
  mayHide,
  inWiring,
  set: (site, unit) => {
    const place = fits(site, unit);
    if (typeof place === 'string') return place;
    const before = set(place, site, unit);
    return () => mend(before, place, site, unit);
  },
});
