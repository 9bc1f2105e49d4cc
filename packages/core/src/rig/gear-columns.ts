import { parseQuantity } from './gear-quantity.ts';
import { headingsIn, type GearField } from './gear-headings.ts';
import { readMac } from './read-mac.ts';

export interface GearColumns {
  /** Line of the headings, counted from 1; 0 where there are none. What stands above them is no gear. */
  readonly header: number;
  readonly fields: readonly (GearField | null)[];
}

/** Titles, dates and crews stand above the headings, but not a page of them. */
const mostTitles = 20;

/**
 * Says which column holds what: from the first row that reads like headings (two known words or more), else from what
 * the columns contain. `isType` tells whether a text names a known device type.
 */
export function guessColumns(cells: readonly (readonly string[])[], isType: (text: string) => boolean): GearColumns {
  const heads = cells.slice(0, mostTitles).map(headingsIn);
  const at = heads.findIndex((head, line) => {
    const known = head.filter((field) => field !== null).length;
    const filled = (cells[line] ?? []).filter((cell) => cell.trim() !== '').length;
    return known >= Math.min(2, filled) && known > 0;
  });
  if (at >= 0) return { header: at + 1, fields: unique(heads[at] ?? []) };
  return { header: 0, fields: fromContents(cells.slice(0, 50), isType) };
}

const unique = (fields: (GearField | null)[]) =>
  fields.map((field, at) => (fields.indexOf(field) === at ? field : null));

function fromContents(sample: readonly (readonly string[])[], isType: (text: string) => boolean): (GearField | null)[] {
  const width = Math.max(0, ...sample.map((row) => row.length));
  const columns = Array.from({ length: width }, (_, at) => sample.map((row) => (row[at] ?? '').trim()).filter(Boolean));
  const fields: (GearField | null)[] = columns.map(() => null);
  const tests: readonly (readonly [GearField, (text: string) => boolean])[] = [
    ['mac', (text) => readMac(text) !== undefined],
    ['address', (text) => /^\d{1,3}(\.\d{1,3}){3}(\/\d+)?$/.test(text)],
    ['type', isType],
    ['quantity', (text) => /\D/.test(text) && parseQuantity(text) !== undefined],
    ['unit', (text) => /^\d{1,4}$/.test(text)],
    ['firmware', (text) => /^v?\d+(\.\d+)+/i.test(text)],
  ];
  for (const [field, fits] of tests) claim(columns, fields, field, (texts) => share(texts, fits));
  claim(columns, fields, 'name', (texts) => new Set(texts).size / Math.max(1, texts.length));
  claim(columns, fields, 'place', (texts) => (texts.length > 0 ? 1 : 0));
  return fields;
}

const share = (texts: readonly string[], fits: (text: string) => boolean): number =>
  texts.filter(fits).length / Math.max(1, texts.length);

/** Gives the field to the unclaimed column that fits best, if more than half of its cells do. */
function claim(
  columns: readonly string[][],
  fields: (GearField | null)[],
  field: GearField,
  score: (texts: readonly string[]) => number,
): void {
  const scores = columns.map((texts, at) => (fields[at] === null ? score(texts) : 0));
  const best = Math.max(0, ...scores);
  if (best > 0.5) fields[scores.indexOf(best)] = field;
}
