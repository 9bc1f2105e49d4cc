import { addressing, type Seen, type show as core } from '@deep-patch/core';
import type { Sql } from './pool.ts';

export async function keepSounding(sql: Sql, showId: string, sounding: core.MeasuredSounding): Promise<void> {
  await sql.query(
    `insert into observation (show_id, kind, subject_id, source, value) values ($1, 'sounding', $2, $3, $4)
     on conflict (show_id, kind, subject_id) do update set source = excluded.source, value = excluded.value, at = now()`,
    [showId, sounding.linkId, sounding.source, JSON.stringify(sounding)],
  );
}

/**
 * What was proved on the bench of these links before `at`, in milliseconds since 1970, is not of now any more: one that
 * was begun later knows what happened. Answers whether anything was.
 */
export async function ageSoundings(sql: Sql, showId: string, linkIds: readonly string[], at: number): Promise<boolean> {
  const { rowCount } = await sql.query(
    `update observation set value = value || '{"aged": true}'
       where show_id = $1 and kind = 'sounding' and source = 'bench' and subject_id = any($2::text[])
         and not value ? 'aged' and (value->>'at')::double precision < $3`,
    [showId, linkIds, at],
  );
  return (rowCount ?? 0) > 0;
}

/** Hosts as they were found; one found again takes the place of what was known of it. */
export async function keepFound(sql: Sql, showId: string, hosts: readonly core.FoundHost[]): Promise<void> {
  await sql.query(
    `insert into observation (show_id, kind, subject_id, source, value)
       select $1, 'found', h.doc->>'id', h.doc->>'source', h.doc from jsonb_array_elements($2::jsonb) as h(doc)
     on conflict (show_id, kind, subject_id) do update set source = excluded.source, value = excluded.value, at = now()`,
    [showId, JSON.stringify(hosts)],
  );
}

/** What a scan found; whom an earlier scan found in a subnet that was asked to the end now, and this one did not, is gone. */
export async function keepScan(
  sql: Sql,
  showId: string,
  { hosts, swept }: { hosts: readonly core.FoundHost[]; swept: readonly core.SweptSubnet[] },
): Promise<void> {
  const { found } = await readSeen(sql, showId);
  const there = new Set(hosts.map(({ id }) => id));
  const gone = Object.values(found)
    .filter(({ id, source, ips }) => source === 'scan' && !there.has(id) && addressing.areAllIn(swept, ips))
    .map(({ id }) => id);
  await sql.query(`delete from observation where show_id = $1 and kind = 'found' and subject_id = any($2::text[])`, [
    showId,
    gone,
  ]);
  await keepFound(sql, showId, hosts);
}

export async function forgetFound(sql: Sql, showId: string): Promise<void> {
  await sql.query(`delete from observation where show_id = $1 and kind = 'found'`, [showId]);
}

export async function readSeen(sql: Sql, showId: string): Promise<Seen> {
  const { rows } = await sql.query<{ kind: string; id: string; value: unknown }>(
    `select kind, subject_id as id, value from observation where show_id = $1 and kind in ('sounding', 'found')`,
    [showId],
  );
  const of = (wanted: string) =>
    Object.fromEntries(rows.flatMap(({ kind, id, value }) => (kind === wanted ? [[id, value] as const] : [])));
  return { soundings: of('sounding'), found: of('found') } as Seen;
}
