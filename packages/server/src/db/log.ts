import type { show as core } from '@deep-patch/core';
import type { Sql } from './pool.ts';

export type ChangeKind = 'do' | 'undo' | 'redo';

/** One line of the audit trail, which is also what other tabs apply to their snapshot. */
export interface LoggedChange {
  readonly rev: number;
  readonly id: string;
  readonly kind: ChangeKind;
  readonly ofRev: number | null;
  readonly label: string;
  readonly author: string;
  readonly edits: readonly core.Edit[];
}

/**
 * The revision and label of what an author would take back or do again next, from the log alone: so both survive a reload
 * and a restart, and go back to the start of the show. A change of one's own ends what could be done again.
 */
export async function nextStep(
  sql: Sql,
  showId: string,
  author: string,
  kind: 'undo' | 'redo',
): Promise<{ rev: number; label: string } | undefined> {
  const { rows } = await sql.query<{ rev: number; label: string }>(
    kind === 'undo'
      ? `select rev, label from change where show_id = $1 and author = $2 and kind in ('do', 'redo') and not taken
           order by rev desc limit 1`
      : `select rev, label from change where show_id = $1 and author = $2 and kind = 'undo' and not taken
           and rev > coalesce((select max(rev) from change where show_id = $1 and author = $2 and kind = 'do'), 0)
           order by rev desc limit 1`,
    [showId, author],
  );
  return rows[0];
}

/** Changes after a revision, oldest first; undefined when there are too many to be worth applying one by one. */
export async function changesSince(sql: Sql, showId: string, rev: number): Promise<LoggedChange[] | undefined> {
  const { rows } = await sql.query<LoggedChange>(
    `select rev, id, kind, of_rev as "ofRev", label, author, edits from change where show_id = $1 and rev > $2 order by rev limit 101`,
    [showId, rev],
  );
  return rows.length > 100 ? undefined : rows;
}

export async function changeAt(sql: Sql, showId: string, rev: number): Promise<LoggedChange | undefined> {
  const { rows } = await sql.query<LoggedChange>(
    `select rev, id, kind, of_rev as "ofRev", label, author, edits from change where show_id = $1 and rev = $2`,
    [showId, rev],
  );
  return rows[0];
}

/** Which of these are saved already, whatever show revision they made. */
export async function changesById(sql: Sql, showId: string, ids: readonly string[]): Promise<LoggedChange[]> {
  const { rows } = await sql.query<LoggedChange>(
    `select rev, id, kind, of_rev as "ofRev", label, author, edits from change where show_id = $1 and id = any($2)`,
    [showId, ids],
  );
  return rows;
}

/** Adds lines of consecutive revisions, moves the show to the last, and tells every server process once. */
export async function appendToLog(sql: Sql, showId: string, lines: readonly LoggedChange[]): Promise<void> {
  const rev = lines.at(-1)?.rev;
  await sql.query(
    `with logged as (
       insert into change (show_id, rev, id, kind, of_rev, label, author, edits)
         select $1, rev, id, kind, "ofRev", label, author, edits from jsonb_to_recordset($3::jsonb)
           as r(rev integer, id text, kind text, "ofRev" integer, label text, author text, edits jsonb)
     ), taken as (
       update change set taken = true where show_id = $1 and rev = any($4)
     ), moved as (
       update show set rev = $2 where id = $1
     )
     select pg_notify('show', $5)`,
    [showId, rev, JSON.stringify(lines), lines.flatMap(({ ofRev }) => ofRev ?? []), `${showId} ${rev}`],
  );
}
