import { hostNamePattern, limits, rowsOf, type DeviceType, type Show } from '../show/index.ts';
import { guessColumns, type GearColumns } from './gear-columns.ts';
import { gearFields, type GearField } from './gear-headings.ts';
import { countedIn, numberedName, parseQuantity } from './gear-quantity.ts';
import { typeMatcher, type TypeMatcher } from './match-type.ts';
import { readMac } from './read-mac.ts';

export interface GearRow {
  /** Line of the list, counted from 1 with its header. */
  readonly line: number;
  readonly name: string;
  readonly type: DeviceType | undefined;
  readonly unit: number | null;
  readonly place: string;
  readonly address: GearAddress | null;
  readonly hostName: string;
  readonly mac: string | null;
  readonly serial: string;
  readonly firmware: string | null;
  readonly note: string;
}

export interface GearAddress {
  readonly ip: string;
  /** The mask as written; null where the list says none. */
  readonly prefix: number | null;
}

export type GearProblemCode =
  | 'no_name'
  | 'long_text'
  | 'name_twice'
  | 'name_in_show'
  | 'no_type'
  | 'unknown_type'
  | 'bad_unit'
  | 'bad_quantity'
  | 'one_of_many'
  | 'bad_address'
  | 'no_host_address'
  | 'address_twice'
  | 'address_in_show'
  | 'address_of_program'
  | 'bad_host_name'
  | 'bad_mac'
  | 'mac_twice'
  | 'no_column';

/** A fault of one cell. `isBlocking` ones keep the row out; the others are taken in and become findings. */
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

/** Reads one cell with an address: what it means, or which address it may have meant. */
export type ReadAddress = (
  text: string,
) => GearAddress | { readonly fault: 'bad_address' | 'no_host_address'; readonly hint: string };

export interface ReadOptions {
  readonly columns?: GearColumns;
  /** Lines that somebody left out. */
  readonly leftOut?: ReadonlySet<number>;
  /** Without it a column of addresses says nothing: reading them is another room's work. */
  readonly readAddress?: ReadAddress;
  readonly onProgress?: (done: number, total: number) => void;
}

/**
 * Reads the cells of a gear list against the types and names of a show. A line that stands for several becomes as many
 * units, numbered. Never throws; every fault has its cell.
 */
export function readGearList(cells: readonly (readonly string[])[], show: Show, options: ReadOptions = {}): GearList {
  const types = typeMatcher(show);
  const columns = options.columns ?? guessColumns(cells, (text) => types.match(countedIn(text).text) !== undefined);
  const problems: GearProblem[] = [];
  const reader = { columns, types, problems, seen: seenIn(show), readAddress: options.readAddress };
  const rows: GearRow[] = [];
  cells.forEach((row, at) => {
    if (at % 250 === 0) options.onProgress?.(at, cells.length);
    const isGear = at >= columns.header && row.some((cell) => cell.trim() !== '');
    if (isGear && !options.leftOut?.has(at + 1)) rows.push(...readLine(reader, row, at + 1));
  });
  options.onProgress?.(cells.length, cells.length);
  return { columns, rows, problems: missesTypes(columns, rows) ? [noColumn] : problems.sort(byPlace) };
}

const noColumn: GearProblem = { line: 0, field: 'type', code: 'no_column', isBlocking: true, text: '', hint: '' };

/** A list may do without a column of types where its names say what the gear is. */
const missesTypes = ({ fields }: GearColumns, rows: readonly GearRow[]): boolean =>
  !fields.includes('type') && rows.every(({ type }) => type === undefined);

const byPlace = (a: GearProblem, b: GearProblem): number =>
  a.line - b.line || gearFields.indexOf(a.field) - gearFields.indexOf(b.field);

/** Who has what already, with its line; 0 stands for the show. */
interface Seen {
  readonly names: Map<string, number>;
  readonly macs: Map<string, number>;
  readonly ips: Map<string, number>;
}

const seenIn = (show: Show): Seen => ({
  names: new Map(rowsOf(show, 'devices').map(({ name }) => [name.toLowerCase(), 0])),
  macs: new Map(rowsOf(show, 'interfaces').flatMap(({ mac }) => (mac ? [[mac, 0] as const] : []))),
  ips: new Map(rowsOf(show, 'addresses').flatMap(({ ip }) => (ip ? [[ip, 0] as const] : []))),
});

interface Reader {
  readonly columns: GearColumns;
  readonly types: TypeMatcher;
  readonly problems: GearProblem[];
  readonly seen: Seen;
  readonly readAddress: ReadAddress | undefined;
}

type Report = (field: GearField, code: GearProblemCode, isBlocking: boolean, hint?: string) => void;
interface Line {
  readonly line: number;
  readonly cell: (field: GearField) => string;
  readonly has: (field: GearField) => boolean;
  readonly report: Report;
}

const longest: Readonly<Partial<Record<GearField, number>>> = {
  name: limits.name,
  place: limits.text,
  serial: limits.text,
  firmware: limits.text,
  note: limits.note,
};

function readLine(reader: Reader, cells: readonly string[], line: number): GearRow[] {
  const { columns, problems, seen, types } = reader;
  const has = (field: GearField) => columns.fields.includes(field);
  const cell = (field: GearField) => (has(field) ? (cells[columns.fields.indexOf(field)] ?? '').trim() : '');
  const report: Report = (field, code, isBlocking, hint = '') =>
    problems.push({ line, field, code, isBlocking, text: cell(field), hint });
  const read: Line = { line, cell, has, report };
  for (const [field, most] of Object.entries(longest) as [GearField, number][])
    if (cell(field).length > most) report(field, 'long_text', true, String(most));
  const type = readType(read, types);
  const count = readQuantity(read);
  const row = {
    line,
    type,
    place: cell('place'),
    address: readAddressCell(read, type, seen.ips, reader.readAddress),
    hostName: readHostName(read),
    mac: readMacCell(read, seen.macs),
    serial: cell('serial'),
    firmware: cell('firmware') || null,
    note: cell('note'),
  };
  return namesFor(read, type, count, seen.names).map(({ name, number }, at) => ({
    ...row,
    name,
    unit: readUnit(read, at) ?? (count > 1 ? number : null),
  }));
}

/** The name that a line gives, without how many there are of it. */
const saidName = ({ cell }: Line): string => (cell('quantity') === '' ? countedIn(cell('name')).text : cell('name'));
const saidType = ({ cell }: Line): string => (cell('quantity') === '' ? countedIn(cell('type')).text : cell('type'));

function readQuantity({ cell, report }: Line): number {
  const text = cell('quantity');
  if (text === '') return Math.max(countedIn(cell('name')).count, countedIn(cell('type')).count);
  const count = parseQuantity(text);
  if (count === undefined) report('quantity', 'bad_quantity', true);
  const own = (['mac', 'serial', 'hostName', 'address'] as const).find((field) => cell(field) !== '');
  if (own && (count ?? 1) > 1) report(own, 'one_of_many', true, String(count));
  return count ?? 1;
}

/** One name, or as many as there are units, numbered from where the name ends and past those that are taken. */
function namesFor(
  line: Line,
  type: DeviceType | undefined,
  count: number,
  names: Seen['names'],
): { readonly name: string; readonly number: number }[] {
  const said = saidName(line);
  const isMade = said === '' && !line.has('name');
  const wanted = isMade ? (type?.name ?? saidType(line)) : said;
  if (count === 1 && !(isMade && names.has(wanted.toLowerCase()))) {
    return [{ name: readName(line, wanted, names), number: 1 }];
  }
  if (wanted === '') return [{ name: readName(line, wanted, names), number: 1 }];
  const { base, first } = numberedName(wanted);
  const made: { name: string; number: number }[] = [];
  for (let number = first; made.length < count; number += 1) {
    const name = `${base} ${number}`;
    if (names.has(name.toLowerCase())) continue;
    names.set(name.toLowerCase(), line.line);
    made.push({ name, number });
  }
  return made;
}

function readName({ line, report, has }: Line, name: string, names: Seen['names']): string {
  const before = names.get(name.toLowerCase());
  if (name === '') report(has('name') ? 'name' : 'type', has('name') ? 'no_name' : 'no_type', true);
  else if (before !== undefined) report('name', before === 0 ? 'name_in_show' : 'name_twice', false, String(before));
  else names.set(name.toLowerCase(), line);
  return name;
}

/** What the line says it is; where it says nothing, what its name says. */
function readType(line: Line, types: TypeMatcher): DeviceType | undefined {
  const text = saidType(line);
  const type = types.match(text === '' ? numberedName(saidName(line)).base : text);
  if (type || (text === '' && saidName(line) === '')) return type;
  const likely = types.likely(text === '' ? numberedName(saidName(line)).base : text)[0]?.name ?? '';
  if (line.has('type')) line.report('type', text ? 'unknown_type' : 'no_type', true, likely);
  else line.report('name', 'unknown_type', true, likely);
  return undefined;
}

function readUnit({ cell, report }: Line, at: number): number | null {
  const text = cell('unit');
  if (text === '') return null;
  if (/^\d{1,4}$/.test(text) && Number(text) + at <= limits.unit) return Number(text) + at;
  if (at === 0) report('unit', 'bad_unit', true);
  return null;
}

function readHostName({ cell, report }: Line): string {
  const text = cell('hostName').replace(/\.local\.?$/i, '');
  if (hostNamePattern.test(text)) return text;
  report('hostName', 'bad_host_name', true);
  return '';
}

function readAddressCell(
  { line, cell, report }: Line,
  type: DeviceType | undefined,
  ips: Seen['ips'],
  read: ReadAddress | undefined,
): GearAddress | null {
  const text = cell('address');
  if (text === '' || !read) return null;
  const found = read(text);
  if ('fault' in found) {
    report('address', found.fault, true, found.hint);
    return null;
  }
  if (type && type.adapters.length === 0) {
    report('address', 'address_of_program', false);
    return null;
  }
  const before = ips.get(found.ip);
  if (before === undefined) ips.set(found.ip, line);
  else report('address', before === 0 ? 'address_in_show' : 'address_twice', false, String(before));
  return found;
}

function readMacCell({ line, cell, report }: Line, macs: Seen['macs']): string | null {
  const text = cell('mac');
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
