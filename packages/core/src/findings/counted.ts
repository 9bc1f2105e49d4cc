/** A number with its noun: `1 unit`, `2 units`, `1 address`, `0 addresses`. */
export const counted = (count: unknown, one: string, many = `${one}s`): string =>
  `${String(count)} ${count === 1 ? one : many}`;

/** The word that fits one, or several. */
export const oneOr = (count: unknown, one: string, many: string): string => (count === 1 ? one : many);
