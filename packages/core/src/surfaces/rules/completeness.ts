import { groups, keyed, type Subject } from '../../findings/index.ts';
import { rowsBy, type Device } from '../../show/index.ts';
import { missingOf } from '../completeness.ts';
import { surfaceRule } from '../surface-rule.ts';

/** What can be started and not stopped, or cannot be done at all although a show needs it (C59). */
export const withoutCounterpart = surfaceRule<{
  without_counterpart: { target: string; has: string; lacks: string };
  essential_missing: { target: string; lacks: string };
}>(
  {
    without_counterpart: (f) => [
      `${f.target} can be told “${f.has}” and not “${f.lacks}”.`,
      'It is noticed when somebody needs it.',
      `Put “${f.lacks}” on a control or into a cue.`,
    ],
    essential_missing: (f) => [
      `“${f.lacks}” of ${f.target} is on no control and in no cue.`,
      'A show cannot be run without it.',
      'Put it on a control.',
    ],
  },
  groups(
    (show) => rowsBy(show, 'assignments', 'targetId'),
    (found, rows, show) => {
      const target: Device | undefined = show.devices[rows[0]?.targetId ?? ''];
      if (!target) return [];
      const subjects: Subject[] = [{ table: 'devices', id: target.id }];
      return missingOf(show, target).map(({ service, command, of }) =>
        keyed(
          of
            ? found('without_counterpart', 'risky', subjects, {
                target: target.name,
                has: of.label,
                lacks: command.label,
              })
            : found('essential_missing', 'risky', subjects, { target: target.name, lacks: command.label }),
          target.id,
          service.key,
          command.key,
        ),
      );
    },
  ),
);
