import { z } from 'zod';
import { schemas, type Content, type TableName } from './rows.ts';
import { idSchema, revisionSchema } from './scalars.ts';

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

const editSchema = z.discriminatedUnion(
  'table',
  (Object.keys(schemas) as TableName[]).map((table) =>
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
