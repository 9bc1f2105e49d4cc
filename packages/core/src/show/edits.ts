import { contentOf } from './change.ts';
import type { Change, Content, Edit, Row, TableName } from './entities.ts';
import { isEqual } from './is-equal.ts';

export const insertRow = <T extends TableName>(table: T, content: Content<T>): Edit<T> => ({
  table,
  id: content.id,
  base: 0,
  before: null,
  after: content,
});

export const updateRow = <T extends TableName>(table: T, row: Row<T>, patch: Partial<Content<T>>): Edit<T> => ({
  table,
  id: row.id,
  base: row.rev,
  before: contentOf(row),
  after: { ...contentOf(row), ...patch },
});

export const removeRow = <T extends TableName>(table: T, row: Row<T>): Edit<T> => ({
  table,
  id: row.id,
  base: row.rev,
  before: contentOf(row),
  after: null,
});

/** A change without the edits that alter nothing; undefined when none is left. */
export function changeOf(label: string, edits: readonly Edit[]): Change | undefined {
  const real = edits.filter((edit) => !isEqual(edit.before, edit.after));
  return real.length > 0 ? { label, edits: real } : undefined;
}
