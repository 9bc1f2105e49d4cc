import { groupBy } from './group-by.ts';
import { tableNames, type Row, type TableName } from './entities.ts';

/** Rows of one table by id. */
export type Table<T extends TableName> = Readonly<Record<string, Row<T>>>;
export type Tables = { readonly [T in TableName]: Table<T> };

/** One snapshot of a plan: the only input about the plan that any computation takes. */
export interface Show extends Tables {
  readonly id: string;
  readonly name: string;
  readonly subtitle: string;
  readonly rev: number;
}

export function emptyShow(about: { id: string; name: string; subtitle?: string }): Show {
  const tables = Object.fromEntries(tableNames.map((name) => [name, {}])) as unknown as Tables;
  return { id: about.id, name: about.name, subtitle: about.subtitle ?? '', rev: 0, ...tables };
}

/** Listed once a table: a snapshot never changes, and many rules walk the same rows. */
const listed = new WeakMap<object, readonly Row[]>();

/** The rows of a table as an array of the caller's own. */
export function rowsOf<T extends TableName>(show: Show, table: T): Row<T>[] {
  const rows = listed.get(show[table]) ?? Object.values<Row>(show[table]);
  listed.set(show[table], rows);
  return rows.slice() as unknown as Row<T>[];
}

type TextColumn<T extends TableName> = {
  [Column in keyof Row<T>]: Row<T>[Column] extends string | null ? Column : never;
}[keyof Row<T>] &
  string;

/** Grouped once a table and column: a change makes new tables only where it changes rows. */
const grouped = new WeakMap<object, Map<string, ReadonlyMap<string, readonly Row[]>>>();

/** The rows of a table by what one column says, in the order of the table; those that say nothing are left out. */
export function rowsBy<T extends TableName>(
  show: Show,
  table: T,
  column: TextColumn<T>,
): ReadonlyMap<string, readonly Row<T>[]> {
  const columns = grouped.get(show[table]) ?? new Map<string, ReadonlyMap<string, readonly Row[]>>();
  grouped.set(show[table], columns);
  const there = columns.get(column) ?? groupedBy(Object.values(show[table]), column);
  columns.set(column, there);
  return there as unknown as ReadonlyMap<string, readonly Row<T>[]>;
}

function groupedBy(rows: readonly Row[], column: string): ReadonlyMap<string, readonly Row[]> {
  const saysOf = (row: Row) => (row as unknown as Readonly<Record<string, string | null>>)[column] ?? null;
  return groupBy(
    rows.filter((row) => saysOf(row) !== null),
    (row) => saysOf(row) ?? '',
  );
}
