import type { Pool } from 'pg';
import { show as core, type Change, type Show } from '@deep-patch/core';
import { Failure } from '../http/failure.ts';
import { inTransaction, type Sql } from './pool.ts';
import { takeOffers } from './secrets.ts';
import { readRows } from './shows.ts';
import { statements } from './tables.ts';

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

interface Request {
  readonly id: string;
  readonly author: string;
  readonly change: Change;
}

/** Saves a change whole or not at all. A change that arrives twice by its id is saved once. */
export const saveChange = (pool: Pool, showId: string, request: Request): Promise<LoggedChange> =>
  inTransaction(pool, async (client) => {
    const rev = await lockShow(client, showId);
    return (
      (await findChange(client, showId, request.id)) ??
      write(client, showId, rev, { ...request, kind: 'do', ofRev: null })
    );
  });

/** Takes the author's last standing change back, or does the last one taken back again. */
export const stepBack = (
  pool: Pool,
  showId: string,
  request: Omit<Request, 'change'>,
  kind: 'undo' | 'redo',
): Promise<LoggedChange> =>
  inTransaction(pool, async (client) => {
    const rev = await lockShow(client, showId);
    const before = await findChange(client, showId, request.id);
    if (before) return before;
    const step = await nextStep(client, showId, request.author, kind);
    const target = step && (await changeAt(client, showId, step.rev));
    if (!target) throw new Failure(kind === 'undo' ? 'NOTHING_TO_UNDO' : 'NOTHING_TO_REDO');
    const current = await readTouched(client, showId, target);
    const change = core.inverseOf(current, core.modernised(target), target.label);
    return write(client, showId, rev, { ...request, change, kind, ofRev: target.rev });
  });

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
    `select rev, id, kind, of_rev as "ofRev", label, author, edits from change
       where show_id = $1 and rev > $2 order by rev limit 101`,
    [showId, rev],
  );
  return rows.length > 100 ? undefined : rows;
}

async function lockShow(sql: Sql, showId: string): Promise<number> {
  const { rows } = await sql.query<{ rev: number }>('select rev from show where id = $1 for update', [showId]);
  const [row] = rows;
  if (!row) throw new Failure('SHOW_NOT_FOUND', { showId });
  return row.rev;
}

async function changeAt(sql: Sql, showId: string, rev: number): Promise<LoggedChange | undefined> {
  const { rows } = await sql.query<LoggedChange>(
    `select rev, id, kind, of_rev as "ofRev", label, author, edits from change where show_id = $1 and rev = $2`,
    [showId, rev],
  );
  return rows[0];
}

async function findChange(sql: Sql, showId: string, id: string): Promise<LoggedChange | undefined> {
  const { rows } = await sql.query<LoggedChange>(
    `select rev, id, kind, of_rev as "ofRev", label, author, edits from change where show_id = $1 and id = $2`,
    [showId, id],
  );
  return rows[0];
}

/** A snapshot that holds the touched rows only: enough to tell whether they moved. */
async function readTouched(sql: Sql, showId: string, { edits }: { edits: readonly core.Edit[] }): Promise<Show> {
  const groups = core.groupBy(edits, ({ table }) => table);
  const tables: Partial<Record<string, unknown>> = {};
  for (const [table, group] of groups)
    tables[table] = await readRows(
      sql,
      showId,
      table as core.TableName,
      group.map(({ id }) => id),
    );
  return { ...core.emptyShow({ id: showId, name: '' }), ...tables };
}

interface Writing extends Request {
  readonly kind: ChangeKind;
  readonly ofRev: number | null;
}

async function write(
  sql: Sql,
  showId: string,
  rev: number,
  { id, author, change: asked, kind, ofRev }: Writing,
): Promise<LoggedChange> {
  const change = await takeOffers(sql, showId, asked);
  const touched = await readTouched(sql, showId, change);
  const conflicts = core.conflictsOf(touched, change);
  if (conflicts.length > 0) throw new Failure('SHOW_CHANGED', { conflicts, change });
  refuseUntrue(touched, change);
  const next = rev + 1;
  await refuseBroken(sql, showId, change);
  await writeRows(sql, showId, next, change);
  if (ofRev !== null)
    await sql.query('update change set taken = true where show_id = $1 and rev = $2', [showId, ofRev]);
  await sql.query(
    `with logged as (
       insert into change (show_id, rev, id, kind, of_rev, label, author, edits) values ($1, $2, $3, $4, $5, $6, $7, $8)
     ), moved as (
       update show set rev = $2 where id = $1
     )
     select pg_notify('show', $9)`,
    [showId, next, id, kind, ofRev, change.label, author, JSON.stringify(change.edits), `${showId} ${next}`],
  );
  return { rev: next, id, kind, ofRev, label: change.label, author, edits: change.edits };
}

/** Refuses edits that do not say what the row holds: taken back, they would write what never was. */
function refuseUntrue(touched: Show, change: Change): void {
  const faults = core.untrueEdits(touched, change).map((at) => ({
    at: `change.edits.${at}.before`,
    message: 'The row does not hold this. Read the show again and make the change on what it holds.',
  }));
  if (faults.length > 0) throw new Failure('INVALID', { faults });
}

/** Fields by which rows name sockets, adapters and computers; an edit that leaves them alone cannot break anything. */
const structural: Readonly<Record<string, readonly string[]>> = {
  devices: ['runsOn'],
  interfaces: ['deviceId', 'adapter'],
  cables: ['medium', 'fromDevice', 'fromSocket', 'toDevice', 'toSocket'],
};

function isStructural({ table, before, after }: core.Edit): boolean {
  const [old, now] = [before, after] as unknown as (Readonly<Record<string, unknown>> | null)[];
  return now !== null && (structural[table] ?? []).some((field) => (now?.[field] ?? null) !== (old?.[field] ?? null));
}

/** Refuses rows that name sockets, adapters or computers which are not there or taken, with every fault at once. */
async function refuseBroken(sql: Sql, showId: string, change: Change): Promise<void> {
  const edits = change.edits.filter(isStructural);
  if (edits.length === 0) return;
  const named = edits.flatMap(({ after }) => {
    const { deviceId, fromDevice, toDevice, runsOn } = after as unknown as Record<string, string | null | undefined>;
    return [deviceId, fromDevice, toDevice, runsOn].flatMap((id) => id ?? []);
  });
  const areTypesAsked = edits.some(({ table }) => table !== 'devices');
  const types = areTypesAsked ? await readRows(sql, showId, 'types', null) : {};
  const libraries = areTypesAsked ? await readRows(sql, showId, 'libraries', null) : {};
  const devices: Record<string, core.Row> = {};
  // a program on a program on a program: as far as it leads
  for (let ids = [...new Set(named)]; ids.length > 0;) {
    const found = await readRows(sql, showId, 'devices', ids);
    Object.assign(devices, found);
    const onwards = Object.values(found).flatMap((row) => (row as core.Device).runsOn ?? []);
    ids = [...new Set(onwards)].filter((id) => !(id in devices));
  }
  const cables = edits.some(({ table }) => table === 'cables') ? await readRows(sql, showId, 'cables', null) : {};
  const known = { ...core.emptyShow({ id: showId, name: '' }), types, libraries, devices, cables } as Show;
  const faults = core.structureFaults(core.written(known, change, 0), change);
  if (faults.length > 0)
    throw new Failure('INVALID', {
      faults: faults.map(({ path, message }) => ({ at: path.join('.'), message })),
    });
}

async function writeRows(sql: Sql, showId: string, rev: number, change: Change): Promise<void> {
  const groups = core.groupBy(change.edits, ({ table }) => table);
  for (const [table, edits] of groups) {
    const { insert, remove } = statements[table as core.TableName];
    const old = edits.filter(({ before }) => before !== null).map(({ id }) => id);
    const rows = edits.flatMap(({ after }) => (after ? [after] : []));
    if (old.length > 0) await sql.query(remove, [showId, old]);
    if (rows.length > 0) await sql.query(insert, [showId, rev, JSON.stringify(rows)]);
  }
}
