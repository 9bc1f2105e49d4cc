import { nameList } from '../../findings/index.ts';
import { namesOf, subjectsOf } from '../facts.ts';
import { rigRule } from '../rig-rule.ts';
import { seatCounts } from '../seats.ts';

/** Licences that the show needs and nobody owns, and those that lie unused (C37). */
export const seatsShort = rigRule<{
  seats_short: { bundle: string; type: string; needed: number; owned: number; per: string; names: string[] };
}>(
  {
    seats_short: (f) => [
      `${f.type} needs ${f.needed} of “${f.bundle}” and the show owns ${f.owned}.`,
      f.per === 'site'
        ? 'Without it the function stays off everywhere.'
        : `Each unit that uses it takes one: ${nameList(f.names)}.`,
      'Buy or borrow the rest, or switch the function off where it is not needed. Owned licences are in the list before the site.',
    ],
  },
  (found, show, facts) =>
    seatCounts(show, facts).flatMap(({ type, bundle, users, needed, owned }) => {
      const details = { bundle: bundle.label, type: type.name, needed, owned, per: bundle.per, names: namesOf(users) };
      return needed > owned ? [found('seats_short', 'risky', subjectsOf(users), details)] : [];
    }),
);
