import { counted } from '../../findings/index.ts';
import { cablingRule } from '../cabling-rule.ts';
import { chainsOf } from '../chains.ts';

/** A chain that is longer than its units allow (C43), by the one that is worst off. */
export const chainDepth = cablingRule<{
  chain_too_deep: { name: string; depth: number; passes: number; most: number; delayMs: number };
}>(
  {
    chain_too_deep: (f) => [
      `${f.name} is number ${f.depth} of a chain; ${f.most} are allowed.`,
      `Whatever goes to it passes ${counted(f.passes, 'other')} first, ${f.delayMs} ms of delay, and is lost when one of them has no power.`,
      'Begin a second chain at the switch, or cable some of them as a star.',
    ],
  },
  (found, show) =>
    chainsOf(show).flatMap(({ type, worst, depth, delayMs }) => {
      const most = type.chain?.most ?? depth;
      const subjects = [{ table: 'devices' as const, id: worst.id }];
      return depth > most
        ? [found('chain_too_deep', 'risky', subjects, { name: worst.name, depth, passes: depth - 1, most, delayMs })]
        : [];
    }),
);
