import { strFromU8, unzipSync } from 'fflate';
import readSheets from 'read-excel-file/universal';

export interface SheetCells {
  readonly name: string;
  readonly cells: string[][];
}
export type XlsxRead =
  | { readonly ok: true; readonly sheets: readonly SheetCells[] }
  | { readonly ok: false; readonly fault: 'not_xlsx' | 'empty' | 'too_many_rows' };

const mostRows = 20_000;
const mostUnpacked = 200_000_000;

/** Does it begin like a zip archive, as every workbook of Office Open XML does (ECMA-376 part 2)? */
export const looksLikeXlsx = (bytes: Uint8Array): boolean =>
  bytes[0] === 0x50 && bytes[1] === 0x4b && bytes[2] === 3 && bytes[3] === 4;

/**
 * The sheets of a workbook (ECMA-376 part 1, section 18) as text, each line with the number that the spreadsheet gives
 * it. A cell merged over several lines stands in each of them; one merged over columns in its first.
 */
export async function readXlsx(bytes: Uint8Array): Promise<XlsxRead> {
  try {
    const merged = mergedCells(bytes);
    const sheets = (await readSheets(Uint8Array.from(bytes).buffer)).map(({ sheet, data }) => ({
      name: sheet,
      cells: filledDown(
        data.map((row) => row.map(textOf)),
        merged.get(sheet) ?? [],
      ),
    }));
    const filled = sheets.filter(({ cells }) => cells.length > 0);
    if (filled.length === 0) return { ok: false, fault: 'empty' };
    return filled.some(({ cells }) => cells.length > mostRows)
      ? { ok: false, fault: 'too_many_rows' }
      : { ok: true, sheets: filled };
  } catch {
    return { ok: false, fault: 'not_xlsx' };
  }
}

/** Cells hold texts, numbers, truths and days. */
function textOf(cell: unknown): string {
  if (cell instanceof Date) return cell.toISOString().slice(0, 10);
  if (typeof cell === 'string') return cell.trim();
  return typeof cell === 'number' || typeof cell === 'boolean' ? String(cell) : '';
}

/** Column from 0, first and last line from 0. */
interface Merged {
  readonly column: number;
  readonly from: number;
  readonly to: number;
}

function filledDown(cells: string[][], merged: readonly Merged[]): string[][] {
  for (const { column, from, to } of merged) {
    const text = cells[from]?.[column] ?? '';
    for (let line = from + 1; line <= Math.min(to, cells.length - 1); line += 1) {
      const row = cells[line];
      if (row) row[column] = text;
    }
  }
  return cells;
}

/** By the name of the sheet. The reader of cells does not tell what is merged. */
function mergedCells(bytes: Uint8Array): Map<string, Merged[]> {
  let unpacked = 0;
  const parts = unzipSync(bytes, {
    filter: ({ name, originalSize }) => {
      unpacked += originalSize;
      if (unpacked > mostUnpacked) throw new RangeError('too large');
      return /^xl\/(workbook\.xml|_rels\/workbook\.xml\.rels|worksheets\/[^/]+\.xml)$/.test(name);
    },
  });
  const textIn = (name: string) => (parts[name] ? strFromU8(parts[name]) : '');
  const targets = new Map(
    tags(textIn('xl/_rels/workbook.xml.rels'), 'Relationship').map((tag) => [
      valueIn(tag, 'Id'),
      valueIn(tag, 'Target'),
    ]),
  );
  return new Map(
    tags(textIn('xl/workbook.xml'), 'sheet').map((tag) => {
      const target = (targets.get(valueIn(tag, 'r:id')) ?? '').replace(/^\/?(xl\/)?/, 'xl/');
      const merges = tags(textIn(target), 'mergeCell').map((merge) => valueIn(merge, 'ref'));
      return [unescaped(valueIn(tag, 'name')), merges.flatMap(readMerge)];
    }),
  );
}

const tags = (xml: string, name: string): string[] => xml.match(new RegExp(`<${name}\\s[^>]*>`, 'g')) ?? [];
const valueIn = (tag: string, name: string): string => new RegExp(`\\s${name}="([^"]*)"`).exec(tag)?.[1] ?? '';
const entities: Readonly<Record<string, string>> = { amp: '&', lt: '<', gt: '>', quot: '"', apos: "'" };
const unescaped = (text: string): string => text.replace(/&(\w+);/g, (whole, name: string) => entities[name] ?? whole);

function readMerge(ref: string): Merged[] {
  const [, letters = '', from = '', to = ''] = /^([A-Z]{1,3})(\d+):[A-Z]{1,3}(\d+)$/.exec(ref) ?? [];
  const column = Array.from(letters).reduce((sum, letter) => sum * 26 + letter.charCodeAt(0) - 64, 0) - 1;
  return letters === '' ? [] : [{ column, from: Number(from) - 1, to: Number(to) - 1 }];
}
