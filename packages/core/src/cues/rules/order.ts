import { fixWith, groups, keyed } from '../../findings/index.ts';
import { rowsBy, rowsOf, serviceTypeOf, type Cue, type Show } from '../../show/index.ts';
import { cueRule } from '../cue-rule.ts';
import { planRenumber } from '../order.ts';
import { byStart, circlesOf, loadOf, startWords } from '../triggers.ts';

const subject = ({ id }: Cue) => ({ table: 'cues' as const, id });

/** Two with one number: which comes first, nobody can tell. */
export const sameNumber = cueRule<{ cue_number_shared: { number: string; count: number } }>(
  {
    cue_number_shared: (f) => [
      `${f.count} cues are number ${f.number}.`,
      'Whoever calls the show cannot say which one is meant.',
      'Give each a number of its own.',
    ],
  },
  (found, show) => {
    const byNumber = new Map<number, Cue[]>();
    for (const cue of rowsOf(show, 'cues')) byNumber.set(cue.number, [...(byNumber.get(cue.number) ?? []), cue]);
    const fix = fixWith('Number the cues anew', planRenumber(show));
    return [...byNumber].flatMap(([number, cues]) =>
      cues.length < 2
        ? []
        : [
            keyed(
              found('cue_number_shared', 'risky', cues.map(subject), { number: String(number), count: cues.length }, [
                fix,
              ]),
              number,
            ),
          ],
    );
  },
);

/** Cues that the same thing starts. */
export const firesTwice = cueRule<{ cue_fires_twice: { cues: string[]; start: string } }>(
  {
    cue_fires_twice: (f) => [
      `Cues ${f.cues.join(' and ')} start together: ${f.start}.`,
      'Both are done at the same moment, and the list goes on from the later one.',
      'Let one follow the other, if that is not meant.',
    ],
  },
  groups(
    byStart,
    (found, cues, show) => {
      const [first] = cues;
      const facts = { cues: cues.map(({ number }) => String(number)), start: first ? startWords(show, first) : '' };
      return [keyed(found('cue_fires_twice', 'risky', cues.map(subject), facts), facts.start)];
    },
    2,
  ),
);

/** Cues that start each other for ever. */
export const circle = cueRule<{ cue_circle: { cues: string[] } }>(
  {
    cue_circle: (f) => [
      `Cues ${f.cues.join(', ')} start each other in a circle.`,
      'Once begun it never ends, so it is not run.',
      'Let one of them be started by hand.',
    ],
  },
  (found, show) =>
    circlesOf(show).map((cues) =>
      keyed(
        found('cue_circle', 'stops', cues.map(subject), { cues: cues.map(({ number }) => String(number)) }),
        ...cues.map(({ id }) => id),
      ),
    ),
);

/** More in a second than a target takes in. */
export const tooFast = cueRule<{ cue_too_fast: { cue: string; target: string; count: number; takes: number } }>(
  {
    cue_too_fast: (f) => [
      `Cue ${f.cue} sends ${f.count} messages a second to ${f.target}, which takes ${f.takes}.`,
      'The rest is lost, and nobody says which.',
      'Give some of them a delay.',
    ],
  },
  groups(
    (show: Show) => rowsBy(show, 'cues', 'id'),
    (found, cues, show) =>
      cues.flatMap((cue) =>
        [...loadOf(show, cue)].flatMap(([key, count]) => {
          const [targetId = '', serviceKey = ''] = key.split(' ');
          const takes = serviceTypeOf(show, show.devices[targetId], serviceKey)?.perSecond;
          if (takes === undefined || count <= takes) return [];
          const facts = { cue: String(cue.number), target: show.devices[targetId]?.name ?? '', count, takes };
          return [keyed(found('cue_too_fast', 'risky', [subject(cue)], facts), cue.id, key)];
        }),
      ),
  ),
);
