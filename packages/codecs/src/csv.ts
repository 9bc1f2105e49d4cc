import Papa from 'papaparse';
import { utf8Text, westernText } from './text.ts';

export type CsvRead =
  | { readonly ok: true; readonly cells: string[][]; readonly encoding: 'utf-8' | 'windows-1252' }
  | { readonly ok: false; readonly fault: 'empty' | 'binary' | 'too_many_rows' | 'not_utf8' };

const mostRows = 20_000;

/**
 * Reads comma, semicolon or tab separated text (RFC 4180, separator guessed), without the strokes that mark text which
 * begins like a formula. Bytes that are not UTF-8 are refused, or read as Windows-1252 where `western` allows it; bytes
 * with zeros or other control characters are no text at all.
 */
export function readCsv(bytes: Uint8Array, { western = false } = {}): CsvRead {
  const text = utf8Text(bytes);
  if (text === undefined && bytes.includes(0)) return { ok: false, fault: 'binary' };
  if (text === undefined && !western) return { ok: false, fault: 'not_utf8' };
  return readCsvText(text ?? westernText(bytes), text === undefined ? 'windows-1252' : 'utf-8');
}

function readCsvText(text: string, encoding: 'utf-8' | 'windows-1252'): CsvRead {
  // control characters other than tab and line ends never stand in a list that a person keeps
  // oxlint-disable-next-line no-control-regex -- the characters are the point
  if (/[\u0000-\u0008\u000e-\u001f]/.test(text)) return { ok: false, fault: 'binary' };
  const bare = text.replace(/^\ufeff/, '');
  const { data } = Papa.parse<string[]>(bare, { delimiter: delimiterOf(bare) });
  // blank lines stay, so that a line has the number that a spreadsheet gives it
  while (data.length > 0 && isBlank(data.at(-1) ?? [])) data.pop();
  if (data.length === 0) return { ok: false, fault: 'empty' };
  if (data.length > mostRows) return { ok: false, fault: 'too_many_rows' };
  return { ok: true, cells: unmarked(data), encoding };
}

/**
 * What divides most lines into equally many cells: titles above a table and blank lines have no say. The first of them
 * where nothing does.
 */
function delimiterOf(text: string): string {
  const shapes = [',', ';', '\t'].map((delimiter) => {
    const { data } = Papa.parse<string[]>(text, { delimiter, skipEmptyLines: 'greedy', preview: 50 });
    const widths = data.map((row) => row.length).filter((width) => width > 1);
    const alike = widths.map((width) => widths.filter((other) => other === width).length);
    return { delimiter, lines: Math.max(0, ...alike), width: Math.max(0, ...widths) };
  });
  return shapes.sort((a, b) => b.lines - a.lines || b.width - a.width)[0]?.delimiter ?? ',';
}

const isBlank = (row: readonly string[]): boolean => row.every((cell) => cell.trim() === '');

type Cell = string | number | null;

/** A spreadsheet runs what begins like a formula, unless a stroke before it says that it is text. */
const asText = (cell: Cell): Cell => (typeof cell === 'string' && /^'*[=+\-@\t\r]/.test(cell) ? `'${cell}` : cell);

/** Cells as RFC 4180 text with CRLF line ends, none of them a formula; `readCsv` gives them back as they were. */
export const writeCsv = (cells: readonly (readonly Cell[])[]): string =>
  Papa.unparse(cells.map((row) => row.map(asText)) as unknown[][]);

/** What spreadsheets copy and paste: tabs between cells, and a cell with a line end or a tab of its own in quotes. */
export const writeBlock = (cells: readonly (readonly Cell[])[]): string =>
  Papa.unparse(cells.map((row) => row.map(asText)) as unknown[][], { delimiter: '\t', newline: '\n' });

/** The cells of a block that was copied in a spreadsheet. */
export const readBlock = (text: string): string[][] =>
  unmarked(Papa.parse<string[]>(text.replace(/\r?\n$/, ''), { delimiter: '\t' }).data);

const unmarked = (cells: readonly string[][]): string[][] =>
  cells.map((row) => row.map((cell) => (/^'+[=+\-@\t\r]/.test(cell) ? cell.slice(1) : cell)));
