import { finding } from '../../findings/index.ts';
import type { Show } from '../../show/index.ts';
import { namesOf, subjectsOf, type RigFacts } from '../facts.ts';
import { seatCounts } from '../seats.ts';

/** Licences that the show needs and nobody owns, and those that lie unused (C37). */
export const seatsShort = (show: Show, facts: RigFacts) =>
  seatCounts(show, facts).flatMap(({ type, bundle, users, needed, owned }) => {
    const details = { bundle: bundle.label, type: type.name, needed, owned, per: bundle.per, names: namesOf(users) };
    if (needed > owned) return [finding('rig', 'seats_short', 'risky', subjectsOf(users), details)];
    return [];
  });
