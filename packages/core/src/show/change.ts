import { z } from 'zod';
import { schemas, tableNames, type Content, type Row, type TableName } from './entities.ts';
import { idSchema, revisionSchema } from './scalars.ts';
import { isEqual } from './is-equal.ts';
import type { Show } from './show.ts';

/**
 * One row's step from `before` to `after` (null: the row does not exist). `base` is the row's `rev` that the author
 * saw, 0 for a row that was not there.
 */
export interface Edit<T extends TableName = TableName> {
  readonly table: T;
  readonly id: string;
  readonly base: number;
  readonly before: Content<T> | null;
  readonly after: Content<T> | null;
}

export interface Change {
  readonly label: string;
  readonly edits: readonly Edit[];
}

/** A row that moved after the author looked: what it was, what the author wants, what it is now. */
export interface Conflict {
  readonly table: TableName;
  readonly id: string;
  readonly base: Content | null;
  readonly yours: Content | null;
  readonly theirs: Row | null;
}

export type Applied = { ok: true; show: Show } | { ok: false; conflicts: Conflict[] };

const editSchema = z.discriminatedUnion(
  'table',
  tableNames.map((table) =>
    z.strictObject({
      table: z.literal(table),
      id: idSchema,
      base: revisionSchema,
      before: schemas[table].nullable(),
      after: schemas[table].nullable(),
    }),
  ) as never,
);

/** The gate for changes that come from outside: unknown fields are refused, all faults are listed. */
export const changeSchema: z.ZodType<Change> = z.strictObject({
  label: z.string().trim().min(1).max(200),
  edits: z
    .array(editSchema)
    .min(1, 'A change needs at least one edit')
    .max(60_000)
    .superRefine((edits, context) => {
      const seen = new Set<string>();
      (edits as unknown as Edit[]).forEach((edit, index) => {
        const key = `${edit.table}/${edit.id}`;
        const wrong =
          (seen.has(key) && 'Two edits of one row in one change') ||
          (edit.before === null && edit.after === null && 'An edit needs a row before or after') ||
          ([edit.before, edit.after].some((row) => row && row.id !== edit.id) &&
            'The row carries another id than its edit');
        if (wrong) context.addIssue({ code: 'custom', path: [index], message: wrong });
        seen.add(key);
      });
    }),
});

/**
 * Edits as they are written today: rows of an older log lack what was added to their table since, and get the value
 * that means "as before". A row that no longer fits is left alone; applying it is refused as any bad row is.
 */
export function modernised(change: Change): Change {
  const fill = (table: TableName, row: Content | null): Content | null => {
    const read = row && schemas[table].safeParse(row);
    return read?.success ? read.data : row;
  };
  const edits = change.edits.map((edit) => ({
    ...edit,
    before: fill(edit.table, edit.before),
    after: fill(edit.table, edit.after),
  }));
  return { ...change, edits };
}

/** Strips `rev`, which belongs to the snapshot and not to the content. */
export function contentOf<T extends TableName>(row: Row<T>): Content<T> {
  const { rev: _rev, ...content } = row;
  return content as unknown as Content<T>;
}

/** Applies a change to the snapshot, or names every row that moved meanwhile and touches nothing. */
export function applyChange(show: Show, change: Change): Applied {
  const conflicts = conflictsOf(show, change);
  return conflicts.length > 0 ? { ok: false, conflicts } : { ok: true, show: written(show, change, show.rev + 1) };
}

export function conflictsOf(show: Show, change: Change): Conflict[] {
  return change.edits.flatMap((edit) => {
    const now = show[edit.table][edit.id] ?? null;
    const fits = (now?.rev ?? 0) === edit.base;
    return fits ? [] : [{ table: edit.table, id: edit.id, base: edit.before, yours: edit.after, theirs: now }];
  });
}

/**
 * Places of edits that say of a row something else than it holds, though they name its revision: taken back, they would
 * write that.
 */
export function untrueEdits(show: Show, change: Change): number[] {
  return change.edits.flatMap(({ table, id, base, before }, at) => {
    const now = show[table][id] ?? null;
    const isNow = (now?.rev ?? 0) === base;
    return isNow && !isEqual(now && contentOf(now), before) ? [at] : [];
  });
}

/** Writes the edits without looking at revisions; for changes that the server has already accepted as revision `rev`. */
export function written(show: Show, change: Change, rev: number): Show {
  const touched: Partial<Record<TableName, Map<string, Row>>> = {};
  for (const edit of change.edits) {
    const table = (touched[edit.table] ??= new Map(Object.entries<Row>(show[edit.table])));
    if (edit.after === null) table.delete(edit.id);
    else table.set(edit.id, { ...edit.after, rev });
  }
  const tables = Object.entries(touched).map(([name, rows]) => [name, Object.fromEntries(rows)] as const);
  return { ...show, ...Object.fromEntries(tables), rev };
}

/**
 * The change that takes `change` back, based on the rows as they are in `show`. A row that somebody altered since
 * keeps a base that no longer fits, so that applying it answers with the conflict.
 */
export function inverseOf(show: Show, change: Change, label: string): Change {
  const edits = change.edits.map((edit) => {
    const now = show[edit.table][edit.id] ?? null;
    const untouched = isEqual(now && contentOf(now), edit.after);
    const base = untouched ? (now?.rev ?? 0) : -1;
    return { table: edit.table, id: edit.id, base, before: edit.after, after: edit.before };
  });
  return { label, edits: edits.reverse() };
}
