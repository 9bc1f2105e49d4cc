import { readMac } from './read-mac.ts';

export const gearFields = ['name', 'type', 'unit', 'place', 'mac', 'firmware'] as const;
export type GearField = (typeof gearFields)[number];

const headings: Readonly<Record<GearField, RegExp>> = {
  name: /^(name|device|unit name|label|item|gear|gerät|appareil|nombre|nom)$/i,
  type: /^(type|model|kind|device type|typ|modell|modèle|tipo)$/i,
  unit: /^(unit|no\.?|nr\.?|number|unit no\.?|#|nummer|numéro|número)$/i,
  place: /^(place|location|position|where|rack|room|ort|platz|lieu|lugar)$/i,
  mac: /^(mac|mac address|hardware address|ethernet address|physical address|mac-adresse|adresse mac)$/i,
  firmware: /^(firmware|version|software|fw|firmware version|sw)$/i,
};

export interface GearColumns {
  readonly header: boolean;
  readonly fields: readonly (GearField | null)[];
}

/**
 * Says which column holds what: from the first row if it reads like a header (two known words or more), else from
 * what the columns contain. `isType` tells whether a text names a known device type.
 */
export function guessColumns(cells: readonly (readonly string[])[], isType: (text: string) => boolean): GearColumns {
  const head = (cells[0] ?? []).map((text) => gearFields.find((field) => headings[field].test(text.trim())) ?? null);
  const known = head.filter((field) => field !== null).length;
  if (known >= Math.min(2, head.length) && known > 0) return { header: true, fields: unique(head) };
  return { header: false, fields: fromContents(cells.slice(0, 50), isType) };
}

const unique = (fields: (GearField | null)[]) =>
  fields.map((field, at) => (fields.indexOf(field) === at ? field : null));

function fromContents(sample: readonly (readonly string[])[], isType: (text: string) => boolean): (GearField | null)[] {
  const width = Math.max(0, ...sample.map((row) => row.length));
  const columns = Array.from({ length: width }, (_, at) => sample.map((row) => (row[at] ?? '').trim()).filter(Boolean));
  const fields: (GearField | null)[] = columns.map(() => null);
  const tests: readonly (readonly [GearField, (text: string) => boolean])[] = [
    ['mac', (text) => readMac(text) !== undefined],
    ['type', isType],
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
