import type { TypeContent } from './make-type.ts';

type Control = TypeContent['controls'][number];
type Spec = Pick<Control, 'key' | 'label' | 'kind' | 'row' | 'column'> & Partial<Control>;

const usual = {
  rows: 1,
  screen: false,
  lamp: 'none',
  least: 0,
  greatest: 127,
  strip: null,
  odd: false,
  enabledFirst: false,
} as const;
export const control = (spec: Spec): Control => ({ ...usual, ...spec });

/** Several controls of one kind side by side, keyed and labelled by their numbers from one. */
export const across = (
  count: number,
  key: string,
  label: string,
  spec: Omit<Spec, 'key' | 'label' | 'column'> & { readonly column?: number; readonly strips?: boolean },
): Control[] => {
  const { column = 0, strips = false, ...rest } = spec;
  return Array.from({ length: count }, (_, at) =>
    control({
      ...{ key: `${key}-${at + 1}`, label: `${label} ${at + 1}`, column: column + at, strip: strips ? at + 1 : null },
      ...rest,
    }),
  );
};

/** Eight strips of an encoder, a key with a lamp and a fader, and one fader that stands apart. */
export const faderStrips: Control[] = [
  ...across(8, 'turn', 'Encoder', { kind: 'encoder', row: 0, strips: true }),
  ...across(8, 'key', 'Key', { kind: 'key', row: 1, lamp: 'lamp', strips: true }),
  ...across(8, 'fader', 'Fader', { kind: 'fader', row: 2, rows: 4, strips: true }),
  control({ key: 'odd', label: 'Odd fader', kind: 'fader', row: 2, column: 9, rows: 4, odd: true }),
];

/** Three rows of five keys, each with a screen of its own. */
export const screenKeys: Control[] = [0, 1, 2].flatMap((row) =>
  across(5, `key-${row + 1}`, `Key ${row + 1}.`, {
    kind: 'key',
    row,
    screen: true,
    lamp: 'colour',
    least: 0,
    greatest: 1,
  }),
);

/** A two-axis stick, a rocker for the lens, encoders, and keys for positions and cameras. */
export const cameraPanel: Control[] = [
  control({ key: 'stick', label: 'Stick', kind: 'pad', row: 0, column: 0, rows: 3, least: -100, greatest: 100 }),
  control({ key: 'lens', label: 'Lens', kind: 'fader', row: 0, column: 1, rows: 3, least: -100, greatest: 100 }),
  ...across(5, 'camera', 'Camera', { kind: 'key', row: 0, column: 2, lamp: 'lamp' }),
  ...across(5, 'position', 'Position', { kind: 'key', row: 1, column: 2 }),
  ...across(3, 'turn', 'Encoder', { kind: 'encoder', row: 2, column: 2, enabledFirst: true }),
  control({ key: 'light', label: 'Light', kind: 'switch', row: 2, column: 5, lamp: 'lamp' }),
];
