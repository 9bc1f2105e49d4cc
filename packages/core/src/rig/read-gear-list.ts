import { rowsOf, type DeviceType, type Show } from '../show/index.ts';
import { guessColumns, type GearColumns, type GearField } from './gear-columns.ts';
import { typeMatcher, type TypeMatcher } from './match-type.ts';
import { readMac } from './read-mac.ts';

export interface GearRow {
  /** Line of the list, counted from 1 with its header. */
  readonly line: number;
  readonly name: string;
  readonly type: DeviceType | undefined;
  readonly unit: number | null;
  readonly place: string;
  readonly mac: string | null;
  readonly firmware: string | null;
}

export type GearProblemCode =
  | 'no_name'
  | 'long_text'
  | 'name_twice'
  | 'name_in_show'
  | 'no_type'
  | 'unknown_type'
  | 'bad_unit'
  | 'bad_mac'
  | 'mac_twice'
  | 'no_column';

/** A fault of one cell. `stops` ones keep the row out; the others are taken in and become findings. */
export interface GearProblem {
  readonly line: number;
  readonly field: GearField;
  readonly code: GearProblemCode;
  readonly isBlocking: boolean;
  readonly text: string;
  readonly hint: string;
}

export interface GearList {
  readonly columns: GearColumns;
  readonly rows: readonly GearRow[];
  readonly problems: readonly GearProblem[];
}

export interface ReadOptions {
  readonly columns?: GearColumns;
  readonly onProgress?: (done: number, total: number) => void;
}

/** Reads the cells of a gear list against the types and names of a show. Never throws; every fault has its cell. */
export function readGearList(cells: readonly (readonly string[])[], show: Show, options: ReadOptions = {}): GearList {
  const types = typeMatcher(show);
  const columns = options.columns ?? guessColumns(cells, (text) => types.match(text) !== undefined);
  const problems: GearProblem[] = missingColumns(columns);
  const seen = { names: namesIn(show), macs: macsIn(show) };
  const rows: GearRow[] = [];
  cells.forEach((row, at) => {
    if (at % 250 === 0) options.onProgress?.(at, cells.length);
    if ((at === 0 && columns.header) || row.every((cell) => cell.trim() === '')) return;
    rows.push(readRow(row, at + 1, columns, types, seen, problems));
  });
  options.onProgress?.(cells.length, cells.length);
  return { columns, rows, problems };
}

const missingColumns = ({ fields }: GearColumns): GearProblem[] =>
  (['name', 'type'] as const)
    .filter((field) => !fields.includes(field))
    .map((field) => ({ line: 0, field, code: 'no_column', isBlocking: true, text: '', hint: '' }));

const namesIn = (show: Show) => new Map(rowsOf(show, 'devices').map((device) => [device.name.toLowerCase(), 0]));
const macsIn = (show: Show) =>
  new Map(rowsOf(show, 'interfaces').flatMap((row) => (row.mac ? [[row.mac, 0] as const] : [])));

interface Taken {
  readonly names: Map<string, number>;
  readonly macs: Map<string, number>;
}

function readRow(
  cells: readonly string[],
  line: number,
  { fields }: GearColumns,
  types: TypeMatcher,
  seen: Taken,
  problems: GearProblem[],
): GearRow {
  const cell = (field: GearField) => (fields.includes(field) ? (cells[fields.indexOf(field)] ?? '').trim() : '');
  const report: Report = (field, code, isBlocking, hint = '') =>
    problems.push({ line, field, code, isBlocking, text: cell(field), hint });
  for (const field of ['name', 'place', 'firmware'] as const)
    if (cell(field).length > 80) report(field, 'long_text', true);
  return {
    line,
    name: readName(cell('name'), line, seen.names, report),
    type: readType(cell('type'), types, fields.includes('type'), report),
    unit: readUnit(cell('unit'), report),
    place: cell('place'),
    mac: readMacCell(cell('mac'), line, seen.macs, report),
    firmware: cell('firmware') || null,
  };
}

type Report = (field: GearField, code: GearProblemCode, isBlocking: boolean, hint?: string) => void;

function readName(name: string, line: number, names: Taken['names'], report: Report): string {
  const before = names.get(name.toLowerCase());
  if (name === '') report('name', 'no_name', true);
  else if (before !== undefined) report('name', before === 0 ? 'name_in_show' : 'name_twice', false, String(before));
  else names.set(name.toLowerCase(), line);
  return name;
}

function readType(text: string, types: TypeMatcher, hasColumn: boolean, report: Report): DeviceType | undefined {
  const type = types.match(text);
  if (!type && hasColumn)
    report('type', text ? 'unknown_type' : 'no_type', true, text ? (types.nearest(text)?.name ?? '') : '');
  return type;
}

function readUnit(text: string, report: Report): number | null {
  if (text === '') return null;
  if (/^\d{1,4}$/.test(text)) return Number(text);
  report('unit', 'bad_unit', true);
  return null;
}

function readMacCell(text: string, line: number, macs: Taken['macs'], report: Report): string | null {
  if (text === '') return null;
  const mac = readMac(text);
  if (mac === undefined) {
    report('mac', 'bad_mac', true);
    return null;
  }
  const before = macs.get(mac);
  if (before !== undefined) report('mac', 'mac_twice', true, String(before));
  else macs.set(mac, line);
  return mac;
}
