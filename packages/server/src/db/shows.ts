import type { Pool } from 'pg';
import { show as core, type contract, type Show } from '@deep-patch/core';
import { Failure } from '../http/failure.ts';
import { inTransaction, type Sql } from './pool.ts';
import { statements } from './tables.ts';

/** All shows, the last changed first. */
export async function listShows(sql: Sql): Promise<contract.ShowLine[]> {
  const { rows } = await sql.query<contract.ShowLine>(
    `select s.id, s.name, s.subtitle, s.rev, s.archived,
       (select count(*)::integer from device d where d.show_id = s.id) as devices,
       coalesce((select max(c.at) from change c where c.show_id = s.id), s.created_at) as "changedAt"
     from show s order by "changedAt" desc, s.id`,
  );
  return rows;
}

/** The whole plan as one snapshot: every table is read at the same instant. */
export function loadShow(pool: Pool, showId: string): Promise<Show> {
  return inTransaction(pool, (client) => readShow(client, showId), 'repeatable read');
}

export async function readShow(sql: Sql, showId: string): Promise<Show> {
  const about = await sql.query<{ id: string; name: string; subtitle: string; rev: number }>(
    'select id, name, subtitle, rev from show where id = $1',
    [showId],
  );
  const [row] = about.rows;
  if (!row) throw new Failure('SHOW_NOT_FOUND', { showId });
  const tables: Partial<Record<core.TableName, unknown>> = {};
  for (const table of core.tableNames) tables[table] = await readRows(sql, showId, table, null);
  return { ...core.emptyShow(row), rev: row.rev, ...tables } as Show;
}

/** Rows of one table by id; all of them for `ids` null. */
export async function readRows(
  sql: Sql,
  showId: string,
  table: core.TableName,
  ids: readonly string[] | null,
): Promise<Record<string, core.Row>> {
  const { rows } = await sql.query<core.Row & { data?: object }>(statements[table].select, [showId, ids]);
  return Object.fromEntries(rows.map(({ data, ...row }) => [row.id, { ...data, ...row }]));
}

/** A new show at revision 0 with the given rows, written in the caller's transaction. */
export async function insertShow(sql: Sql, show: Show): Promise<void> {
  const made = await sql.query(
    'insert into show (id, name, subtitle, rev) values ($1, $2, $3, $4) on conflict (id) do nothing',
    [show.id, show.name, show.subtitle, show.rev],
  );
  if (made.rowCount === 0) throw new Failure('SHOW_EXISTS', { showId: show.id });
  for (const table of core.tableNames) await insertRowsOf(sql, show, table);
}

/** All rows of one table of a show that has none yet. */
export async function insertRowsOf(sql: Sql, show: Show, table: core.TableName): Promise<void> {
  const rows = core.rowsOf(show, table).map((row) => ({ ...row, rev: show.rev }));
  if (rows.length > 0) await sql.query(statements[table].insert, [show.id, JSON.stringify(rows)]);
}

/** Renames a show, or puts it away and back; the plan is not touched. */
export async function editShow(
  sql: Sql,
  showId: string,
  { name, subtitle, archived }: { name: string | null; subtitle: string | null; archived: boolean | null },
): Promise<void> {
  await sql.query(
    `update show set name = coalesce($2, name), subtitle = coalesce($3, subtitle), archived = coalesce($4, archived)
     where id = $1`,
    [showId, name, subtitle, archived],
  );
}

export async function removeShow(sql: Sql, showId: string): Promise<void> {
  const gone = await sql.query('delete from show where id = $1', [showId]);
  if (gone.rowCount === 0) throw new Failure('SHOW_NOT_FOUND', { showId });
  await sql.query(`select pg_notify('show', $1)`, [`${showId} gone`]);
}

/** Refuses a show that is not there; inside a transaction it stays there until the end. */
export async function loadExists(sql: Sql, showId: string): Promise<void> {
  const { rowCount } = await sql.query('select 1 from show where id = $1 for share', [showId]);
  if (!rowCount) throw new Failure('SHOW_NOT_FOUND', { showId });
}
