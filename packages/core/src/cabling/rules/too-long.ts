import { fixWith } from '../../findings/index.ts';
import { changeOf, rowsOf, updateRow } from '../../show/index.ts';
import { cablingRule } from '../cabling-rule.ts';
import { isTooLong, longestRun, mediumFor, runAdvice } from '../run-length.ts';

/** A run that its medium does not carry (C46): with the medium that would. */
export const tooLong = cablingRule<{
  too_long: { from: string; to: string; medium: string; lengthM: number; mostM: number };
}>(
  {
    too_long: (f) => [
      `The ${f.medium} run from ${f.from} to ${f.to} is ${f.lengthM} m long; ${f.mostM} m is the most.`,
      'No link comes up on it, or one that loses what it carries.',
      runAdvice(f.lengthM),
    ],
  },
  (found, show) =>
    rowsOf(show, 'cables')
      .filter(isTooLong)
      .map((cable) => {
        const [from, to] = [cable.fromDevice, cable.toDevice].map((id) => show.devices[id]?.name ?? '');
        const better = mediumFor(cable.lengthM ?? 0);
        const change =
          better && better !== cable.medium
            ? changeOf(`Lay ${better} from ${from} to ${to}`, [updateRow('cables', cable, { medium: better })])
            : undefined;
        const details = {
          from: from ?? '',
          to: to ?? '',
          medium: cable.medium,
          lengthM: cable.lengthM ?? 0,
          mostM: longestRun(cable.medium) ?? 0,
        };
        const subjects = [{ table: 'cables' as const, id: cable.id }];
        return found('too_long', 'stops', subjects, details, [fixWith(change?.label ?? '', change)]);
      }),
);
