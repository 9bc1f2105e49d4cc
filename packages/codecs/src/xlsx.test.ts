import { unzipSync, zipSync, strFromU8, strToU8 } from 'fflate';
import { expect, test } from 'vitest';
import writeSheets from 'write-excel-file/universal';
import { looksLikeXlsx, readXlsx } from './xlsx.ts';

type Cell = { value?: string | number | boolean | Date; rowSpan?: number; columnSpan?: number; format?: string } | null;
/** Written by another library than the one that reads. */
async function workbook(sheets: { sheet: string; data: Cell[][] }[]): Promise<Uint8Array> {
  const blob = await writeSheets(sheets as never).toBlob();
  return new Uint8Array(await blob.arrayBuffer());
}
const text = (value: string, more: object = {}): Cell => ({ value, ...more });

test('sheets with their names, numbers and days as text, blank lines with their numbers', async () => {
  const bytes = await workbook([
    {
      sheet: 'Gear & cases',
      data: [
        [text('Crew list', { columnSpan: 3 }), null, null],
        [],
        [text('name'), text('place'), text('unit')],
        [text('C1'), text('Quay', { rowSpan: 2 }), { value: 1 }],
        [text('C2'), null, { value: 2.1 }],
        [text('C3'), null, { value: new Date('2026-11-27T00:00:00Z'), format: 'yyyy-mm-dd' }],
      ],
    },
    { sheet: 'Empty', data: [[]] },
    { sheet: 'Other', data: [[text('x', { rowSpan: 2 })], [null], [text('y')]] },
  ]);
  expect(looksLikeXlsx(bytes)).toBe(true);
  const read = await readXlsx(bytes);
  expect(read).toEqual({
    ok: true,
    sheets: [
      {
        name: 'Gear & cases',
        cells: [
          ['Crew list', '', ''],
          ['', '', ''],
          ['name', 'place', 'unit'],
          ['C1', 'Quay', '1'],
          ['C2', 'Quay', '2.1'],
          ['C3', '', '2026-11-27'],
        ],
      },
      { name: 'Other', cells: [['x'], ['x'], ['y']] },
    ],
  });
});

test('what is no workbook, holds nothing or unpacks without end is refused, never thrown', async () => {
  const good = await workbook([{ sheet: 'A', data: [[text('x')]] }]);
  expect(await readXlsx(strToU8('PK\u0003\u0004 no archive'))).toEqual({ ok: false, fault: 'not_xlsx' });
  expect(await readXlsx(good.slice(0, good.length / 2))).toEqual({ ok: false, fault: 'not_xlsx' });
  expect(await readXlsx(await workbook([{ sheet: 'A', data: [[]] }]))).toEqual({ ok: false, fault: 'empty' });
  const parts = unzipSync(good);
  expect(strFromU8(parts['xl/workbook.xml'] ?? new Uint8Array())).toContain('<sheet');
  // stored, not deflated: what counts is how much comes out
  const bomb = zipSync({ ...parts, 'xl/worksheets/big.xml': [new Uint8Array(210_000_000), { level: 0 }] });
  expect(await readXlsx(bomb)).toEqual({ ok: false, fault: 'not_xlsx' });
  const many = await workbook([{ sheet: 'A', data: Array.from({ length: 20_001 }, () => [text('x')]) }]);
  expect(await readXlsx(many)).toEqual({ ok: false, fault: 'too_many_rows' });
});
