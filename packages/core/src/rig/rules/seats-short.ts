import { nameList, groups } from '../../findings/index.ts';
import { namesOf, subjectsOf } from '../facts.ts';
import { rigRule } from '../rig-rule.ts';
import { seatsAmong } from '../seats.ts';

/** Licences that the show needs and nobody owns (C37). */
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
  groups(
    (_show, { byModel }) => byModel,
    (found, own, show) =>
      seatsAmong(show, own).flatMap(({ type, bundle, users, needed, owned }) => {
        const details = {
          bundle: bundle.label,
          type: type.name,
          needed,
          owned,
          per: bundle.per,
          names: namesOf(users),
        };
        return needed > owned ? [found('seats_short', 'risky', subjectsOf(users), details)] : [];
      }),
  ),
);

/** Licences that are owned and that nothing in use needs (C37). */
export const seatsIdle = rigRule<{ seats_idle: { bundle: string; type: string; idle: number; owned: number } }>(
  {
    seats_idle: (f) => [
      `${f.idle} of ${f.owned} “${f.bundle}” for ${f.type} ${f.idle === 1 ? 'is' : 'are'} not needed.`,
      'What is opened by it is not marked as used on any unit.',
      'Mark the function where it is used, or leave the licence at home.',
    ],
  },
  groups(
    (_show, { byModel }) => byModel,
    (found, own, show) =>
      seatsAmong(show, own).flatMap(({ type, bundle, needed, owned }) => {
        const subjects = [{ table: 'types' as const, id: type.id }];
        const details = { bundle: bundle.label, type: type.name, idle: owned - needed, owned };
        return owned > needed ? [found('seats_idle', 'note', subjects, details)] : [];
      }),
  ),
);
