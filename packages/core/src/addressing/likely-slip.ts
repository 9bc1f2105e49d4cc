export type Slip = 'dropped' | 'doubled' | 'transposed' | 'changed';

/**
 * The one slip that turns `expected` into `entered`: a character dropped, one too many, two neighbours swapped or
 * one altered (the four single-character edits of Damerau 1964). Undefined when they are equal or further apart.
 */
export function likelySlip(entered: string, expected: string): Slip | undefined {
  if (entered === expected) return undefined;
  if (entered.length === expected.length - 1) return oneShorter(entered, expected) ? 'dropped' : undefined;
  if (entered.length === expected.length + 1) return oneShorter(expected, entered) ? 'doubled' : undefined;
  if (entered.length !== expected.length) return undefined;
  const places = indexes(entered).filter((at) => entered[at] !== expected[at]);
  if (places.length === 1) return 'changed';
  const [first = 0, second = 0] = places;
  const swapped = entered[first] === expected[second] && entered[second] === expected[first];
  return places.length === 2 && second === first + 1 && swapped ? 'transposed' : undefined;
}

const oneShorter = (short: string, long: string): boolean =>
  indexes(long).some((at) => long.slice(0, at) + long.slice(at + 1) === short);

/** Figures and points only: one code unit each. */
const indexes = (text: string): number[] => Array.from({ length: text.length }, (_, at) => at);
