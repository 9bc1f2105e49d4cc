import { writeCsv } from '@deep-patch/codecs';
import type { Column } from './data-grid.tsx';

type Written<Row> = Pick<Column<Row>, 'header' | 'text' | 'sortBy'>;

/** A table as its people see it, in words: a column without words of its own writes what it sorts by. */
export function tableCsv<Row>(columns: readonly Written<Row>[], rows: readonly Row[]): string {
  const written = columns.filter(({ text, sortBy }) => text ?? sortBy);
  return writeCsv([
    written.map(({ header }) => header),
    ...rows.map((row) => written.map(({ text, sortBy }) => (text ?? sortBy)?.(row) ?? null)),
  ]);
}
