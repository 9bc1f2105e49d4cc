import type { show as core } from '@deep-patch/core';

type Field = Exclude<keyof core.RealWall, 'cuts' | 'turned'>;
const fields: { readonly [Key in Field]: (value: NonNullable<core.RealWall[Key]>) => string } = {
  scan: (scan) => `its scan is 1/${scan}`,
  colours: (order) => `its colour order is ${order}`,
  dataFrom: (side) => `data comes in from the ${side}`,
  order: (order) => `receivers hang in the order ${order.join(', ')}`,
  width: (width) => `the sender runs with ${width} pixels across`,
  height: (height) => `the sender runs with ${height} pixels down`,
  start: (corner) => `the player begins at the ${corner.replace('_', ' ')}`,
  reaches: () => 'what the player sends does not get there',
};

/** What of a wall is otherwise than it is entered, in the words of a colleague. */
export function realWords(real: core.RealWall): string[] {
  const { cuts, turned } = real;
  const named = (Object.keys(fields) as Field[]).flatMap((field) => {
    const value = real[field];
    return value === null ? [] : [(fields[field] as (value: unknown) => string)(value)];
  });
  return [
    ...named,
    ...turned.map((output) => `the panels of output ${output} hang upside down`),
    ...cuts.map(({ output, panels }) =>
      panels === 0
        ? `nothing comes from output ${output}`
        : `the string of output ${output} ends after ${panels} panels`,
    ),
  ];
}

/** What nobody mends by entering something, and where to look then. */
export function handWork(real: core.RealWall): string[] {
  return [
    ...(real.reaches === false
      ? ['Look at the output of the player: is it on, and does its interface lead there?']
      : []),
    ...real.turned.map(
      (output) => `Turn the panels of output ${output} round, or turn their part in the set-up program.`,
    ),
    ...real.cuts.map(
      ({ output, panels }) =>
        `Look at the cable ${panels === 0 ? 'from' : `behind panel ${panels} on`} output ${output}, and at its power.`,
    ),
  ];
}
