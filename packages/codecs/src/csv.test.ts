import fc from 'fast-check';
import Papa from 'papaparse';
import { expect, test } from 'vitest';
import { readBlock, readCsv, writeBlock, writeCsv } from './csv.ts';
import { utf8Bytes } from './text.ts';

const read = (text: string) => readCsv(utf8Bytes(text));

test('commas, semicolons and tabs, quotes and a byte order mark', () => {
  const cells = [
    ['name', 'place'],
    ['Camera "3", finish', 'Tower'],
  ];
  expect(read('\ufeffname,place\r\n"Camera ""3"", finish",Tower\r\n')).toMatchObject({ ok: true, cells });
  expect(read('name;place\n"Camera ""3"", finish";Tower')).toMatchObject({ ok: true, cells });
  expect(read('name\tplace\nCamera "3", finish\tTower')).toMatchObject({ ok: true, cells });
});

test('what is written is read again, whatever the cells hold, and no spreadsheet runs any of it', () => {
  const text = fc.stringMatching(/^[ -~äß\n]{1,8}$/).filter((each) => each.trim() !== '');
  const start = fc.constantFrom('', '=', '+', '-', '@', '\t', '\r', "'", "'=", "''-", "'\t");
  const cell = fc.tuple(start, text).map(([first, rest]) => first + rest);
  let formulas = 0;
  fc.assert(
    fc.property(fc.array(fc.tuple(cell, cell, cell), { minLength: 2, maxLength: 6 }), (cells) => {
      const written = writeCsv(cells);
      expect(read(written)).toMatchObject({ ok: true, cells });
      expect(readBlock(writeBlock(cells))).toEqual(cells);
      // as any other program reads it
      const seen = Papa.parse<string[]>(written, { delimiter: ',', newline: '\r\n' }).data.flat();
      expect(seen.filter((each) => /^[=+\-@\t\r]/.test(each))).toEqual([]);
      formulas += cells.flat().filter((each) => /^[=+\-@\t\r]/.test(each)).length;
    }),
  );
  expect(formulas).toBeGreaterThan(100);
});

test('blank lines keep the numbers of the others, and those at the end are none', () => {
  expect(read('crew list\n\nname;place\n;\nCamera;Quay\n\n;\n')).toMatchObject({
    cells: [['crew list'], [''], ['name', 'place'], ['', ''], ['Camera', 'Quay']],
  });
});

test('a number is written as one', () => {
  expect(writeCsv([['level', -3.5, null]])).toBe('level,-3.5,');
});

test('text that is not UTF-8 is refused, or read as Western European when asked', () => {
  const latin = Uint8Array.from([...utf8Bytes('name,place\nCaf'), 0xe9, ...utf8Bytes(',Quay')]);
  expect(readCsv(latin)).toEqual({ ok: false, fault: 'not_utf8' });
  expect(readCsv(latin, { western: true })).toMatchObject({
    ok: true,
    encoding: 'windows-1252',
    cells: [
      ['name', 'place'],
      ['Café', 'Quay'],
    ],
  });
});

test('no text at all is named as such', () => {
  expect(readCsv(new Uint8Array())).toEqual({ ok: false, fault: 'empty' });
  expect(readCsv(Uint8Array.from([0x89, 0x50, 0x4e, 0x47, 0, 0, 0]))).toEqual({ ok: false, fault: 'binary' });
  expect(read('a,b\n'.repeat(20_001))).toEqual({ ok: false, fault: 'too_many_rows' });
});

test('random bytes never throw', () => {
  fc.assert(
    fc.property(fc.uint8Array({ maxLength: 200 }), fc.boolean(), (bytes, western) => void readCsv(bytes, { western })),
    { numRuns: 500 },
  );
});
