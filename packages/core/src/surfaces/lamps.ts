import type { Feedback, TypeControl } from '../show/index.ts';

type Colour = NonNullable<Feedback['colours']>[number]['colour'];
type Shown = Pick<Feedback, 'lit' | 'colours'>;

const nothing: ReadonlySet<string> = new Set(['', '0', 'false', '—', 'none']);

/** Is a lamp of one colour lit by what a parameter says? */
const isLit = ({ lit }: Shown, says: string): boolean =>
  lit.length > 0 ? lit.some((value) => says.startsWith(value)) : !nothing.has(says);

/**
 * What a lamp shows of what a parameter says: lit or dark, and in a colour of its own where the lamp has several. Of
 * what was never heard it shows nothing.
 */
export function lampFor(
  feedback: Shown | undefined,
  says: string | undefined,
  lamp: TypeControl['lamp'],
): { readonly lit: boolean; readonly colour: Colour | null } {
  if (says === undefined) return { lit: false, colour: null };
  const named = feedback?.colours?.find((own) => says.startsWith(own.says))?.colour ?? null;
  const colour = lamp === 'lamp' ? null : named;
  return { lit: colour !== null || isLit(feedback ?? { lit: [] }, says), colour };
}

/** States that have colours of their own, and that a lamp of one colour shows alike. */
export function shownAlike(feedback: Shown): string[] {
  const states = [...new Set((feedback.colours ?? []).map(({ says }) => says))];
  for (const lit of [true, false]) {
    const alike = states.filter((says) => isLit(feedback, says) === lit);
    if (alike.length > 1) return alike;
  }
  return [];
}
