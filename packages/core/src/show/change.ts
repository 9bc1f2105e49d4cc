import type { Change, Content, Row, TableName } from './entities.ts';
import { isEqual } from './is-equal.ts';
import type { Show } from './show.ts';

/** A row that moved after the author looked: what it was, what the author wants, what it is now. */
export interface Conflict {
  readonly table: TableName;
  readonly id: string;
  readonly base: Content | null;
  readonly yours: Content | null;
  readonly theirs: Row | null;
}

export type Applied = { ok: true; show: Show } | { ok: false; conflicts: Conflict[] };

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
  const touched: Partial<Record<TableName, Record<string, Row>>> = {};
  for (const edit of change.edits) {
    const table = (touched[edit.table] ??= { ...show[edit.table] });
    if (edit.after === null) Reflect.deleteProperty(table, edit.id);
    else table[edit.id] = { ...edit.after, rev };
  }
  return { ...show, ...(touched as Partial<Show>), rev };
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
