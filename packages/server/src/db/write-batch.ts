import { show as core, type Change, type Show } from '@deep-patch/core';
import { Failure } from '../http/failure.ts';
import { appendToLog, changeAt, changesById, nextStep, type ChangeKind, type LoggedChange } from './log.ts';
import type { Sql } from './pool.ts';
import { namesSecret, takeOffers } from './secrets.ts';
import { readRows } from './shows.ts';
import { brokenStructure, isStructural } from './structure.ts';
import { statements } from './tables.ts';

/** What somebody wants saved under an id of his own; what a step back changes is for the log to say. */
export interface Asked {
  readonly id: string;
  readonly author: string;
  readonly kind: ChangeKind;
  readonly change: Change | null;
}

export type Outcome = LoggedChange | Failure;

const mostEdits = 200;

/** Whether it asks for more of the database than the rows that it touches: then nothing else shares its transaction. */
export const needsOwnBatch = ({ change }: Asked): boolean =>
  change === null ||
  change.edits.length > mostEdits ||
  change.edits.some((edit) => isStructural(edit) || namesSecret(edit));

/**
 * Decides on each change as if they were saved one after the other, and writes all that hold in one go; the caller's
 * transaction makes it whole. A change that arrives twice by its id is saved once. Throws what concerns the show or a change that came alone.
 */
export async function writeBatch(sql: Sql, showId: string, batch: readonly Asked[]): Promise<Outcome[]> {
  const rev = await lockShow(sql, showId);
  const ids = batch.map(({ id }) => id);
  const saved = new Map((await changesById(sql, showId, ids)).map((line) => [line.id, line]));
  const wanted: Wanted[] = [];
  for (const asked of batch) if (!saved.has(asked.id)) wanted.push(await wantedOf(sql, showId, asked));
  const before = await readTouched(sql, showId, wanted);
  const lines: LoggedChange[] = [];
  const refused = new Map<Asked, Failure>();
  let rows = before;
  for (const { asked, change, ofRev } of wanted) {
    if (saved.has(asked.id)) continue;
    const refusal = refusalOf(rows, change) ?? (await brokenStructure(sql, showId, change));
    if (refusal) refused.set(asked, refusal);
    else {
      const { id, author, kind } = asked;
      const line = { rev: rev + lines.length + 1, id, kind, ofRev, label: change.label, author, edits: change.edits };
      rows = core.written(rows, change, line.rev);
      lines.push(line);
      saved.set(id, line);
    }
  }
  if (pointAhead(lines)) throw new Failure('DANGLING');
  const [first] = refused.values();
  // what a change alone in its batch has taken up on its way is given back
  if (first && batch.length === 1) throw first;
  if (lines.length > 0) {
    await writeRows(sql, showId, before, rows);
    await appendToLog(sql, showId, lines);
    // the checks of references at commit keep the plans that they made while tables were small, which read all rows each time
    if (lines.some(({ edits }) => edits.length > mostEdits)) await sql.query('discard plans');
  }
  return batch.flatMap((asked) => refused.get(asked) ?? saved.get(asked.id) ?? []);
}

/**
 * Does a change need a later one of the batch for its references to hold: a row that is made only then, or one that goes
 * only then? The database looks at the end of the batch and would not see it.
 */
function pointAhead(lines: readonly LoggedChange[]): boolean {
  const [madeBy, goneBy] = [new Map<string, number>(), new Map<string, number>()];
  for (const [at, { edits }] of lines.entries())
    for (const { id, before, after } of edits) {
      if (before === null) madeBy.set(id, at);
      if (after === null) goneBy.set(id, at);
    }
  return lines.some(({ edits }, at) =>
    edits.some(
      ({ before, after }) =>
        Object.values(after ?? {}).some((value) => (madeBy.get(String(value)) ?? 0) > at) ||
        Object.values(before ?? {}).some((value) => (goneBy.get(String(value)) ?? at) < at),
    ),
  );
}

async function lockShow(sql: Sql, showId: string): Promise<number> {
  const { rows } = await sql.query<{ rev: number }>('select rev from show where id = $1 for update', [showId]);
  const [row] = rows;
  if (!row) throw new Failure('SHOW_NOT_FOUND', { showId });
  return row.rev;
}

interface Wanted {
  readonly asked: Asked;
  readonly change: Change;
  readonly ofRev: number | null;
}

/** The author's last standing change turned round, or the last one taken back once more; otherwise what was asked. */
async function wantedOf(sql: Sql, showId: string, asked: Asked): Promise<Wanted> {
  if (asked.change) return { asked, change: await takeOffers(sql, showId, asked.change), ofRev: null };
  const kind = asked.kind === 'redo' ? 'redo' : 'undo';
  const step = await nextStep(sql, showId, asked.author, kind);
  const target = step && (await changeAt(sql, showId, step.rev));
  if (!target) throw new Failure(kind === 'undo' ? 'NOTHING_TO_UNDO' : 'NOTHING_TO_REDO');
  const current = await readTouched(sql, showId, [{ change: target }]);
  const change = core.inverseOf(current, core.modernised(target), target.label);
  return { asked, change, ofRev: target.rev };
}

/** A snapshot that holds the touched rows only: enough to tell whether they moved. */
async function readTouched(
  sql: Sql,
  showId: string,
  wanted: readonly { change: { edits: readonly core.Edit[] } }[],
): Promise<Show> {
  const edits = wanted.flatMap(({ change }) => change.edits);
  const tables: Partial<Record<string, unknown>> = {};
  for (const [table, group] of core.groupBy(edits, (edit) => edit.table))
    tables[table] = await readRows(
      sql,
      showId,
      table as core.TableName,
      group.map(({ id }) => id),
    );
  return { ...core.emptyShow({ id: showId, name: '' }), ...tables };
}

/**
 * Refuses rows that are there already, what moved meanwhile, and edits that do not say what the row holds: taken back,
 * they would write what never was.
 */
function refusalOf(rows: Show, change: Change): Failure | undefined {
  const taken = change.edits.flatMap(({ table, id, base, before }, at) =>
    base === 0 && before === null && rows[table][id]
      ? [{ at: `change.edits.${at}.id`, message: `${id} is there` }]
      : [],
  );
  if (taken.length > 0) return new Failure('ROW_EXISTS', { faults: taken });
  const conflicts = core.conflictsOf(rows, change);
  if (conflicts.length > 0) return new Failure('SHOW_CHANGED', { conflicts, change });
  const faults = core.untrueEdits(rows, change).map((at) => ({
    at: `change.edits.${at}.before`,
    message: 'The row does not hold this. Read the show again and make the change on what it holds.',
  }));
  return faults.length > 0 ? new Failure('INVALID', { faults }) : undefined;
}

/**
 * Writes the rows that differ between two snapshots; what a change made and another removed is never written. Rows go
 * before those that they point at, and come after them.
 */
async function writeRows(sql: Sql, showId: string, before: Show, after: Show): Promise<void> {
  const differing = core.tableNames.map((table) => {
    const [old, now] = [before[table], after[table]] as Readonly<Record<string, core.Row>>[];
    return {
      table,
      gone: Object.values(old ?? {}).filter((row) => now?.[row.id] !== row),
      rows: Object.values(now ?? {}).filter((row) => old?.[row.id] !== row),
    };
  });
  for (const { table, gone } of differing.toReversed())
    if (gone.length > 0) await sql.query(statements[table].remove, [showId, gone.map(({ id }) => id)]);
  for (const { table, rows } of differing)
    if (rows.length > 0) await sql.query(statements[table].insert, [showId, JSON.stringify(rows)]);
}
