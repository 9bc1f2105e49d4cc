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
