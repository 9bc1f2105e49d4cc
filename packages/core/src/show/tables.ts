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
