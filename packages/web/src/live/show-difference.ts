import { show as core, type RowChange, type Show } from '@deep-patch/core';

type Table = Readonly<Record<string, core.Row>>;

/** What makes one snapshot of the other: whole tables are too much to hand over for one row that changed. */
export interface ShowDifference {
  readonly about: Pick<Show, 'id' | 'name' | 'subtitle' | 'rev'>;
  readonly tables: readonly {
    readonly table: core.TableName;
    readonly rows: readonly core.Row[];
    readonly gone: readonly string[];
  }[];
}

/** By the identity of tables and rows: snapshots share what did not change between them. */
export function showDifference(before: Show | undefined, after: Show): ShowDifference {
  const { id, name, subtitle, rev } = after;
  const tables = core.tableNames.flatMap((table) => {
    const [old, now]: [Table, Table] = [before?.[table] ?? {}, after[table]];
    if (old === now) return [];
    const rows = Object.values(now).filter((row) => old[row.id] !== row);
    const gone = Object.keys(old).filter((rowId) => !(rowId in now));
    return rows.length + gone.length > 0 ? [{ table, rows, gone }] : [];
  });
  return { about: { id, name, subtitle, rev }, tables };
}

/** Its rows one by one; null for one that is gone. */
export const rowsOfDifference = ({ tables }: ShowDifference): RowChange[] =>
  tables.flatMap(({ table, rows, gone }) => [
    ...gone.map((id): RowChange => ({ table, id, row: null })),
    ...rows.map((row): RowChange => ({ table, id: row.id, row })),
  ]);

/** Tables without a difference stay the same objects, and with them what was worked out of them. */
export function withDifference(before: Show | undefined, { about, tables }: ShowDifference): Show {
  const changed = tables.map(({ table, rows, gone }) => {
    const all: Record<string, core.Row> = { ...before?.[table] };
    for (const id of gone) Reflect.deleteProperty(all, id);
    for (const row of rows) all[row.id] = row;
    return [table, all] as const;
  });
  return { ...(before ?? core.emptyShow(about)), ...about, ...Object.fromEntries(changed) };
}
