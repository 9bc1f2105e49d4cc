import type { Pool } from 'pg';
import { inTransaction, type Sql } from './pool.ts';

const partBytes = 262_144;

/** Keeps the bytes of a paper once a show, part by part: the same bytes again change nothing. */
export function keepFile(pool: Pool, showId: string, id: string, chunks: AsyncIterable<Uint8Array>): Promise<void> {
  return inTransaction(pool, async (client) => {
    const { rowCount } = await client.query('insert into file (show_id, id) values ($1, $2) on conflict do nothing', [
      showId,
      id,
    ]);
    if (!rowCount) return;
    let part = 0;
    for await (const body of inParts(chunks)) {
      await client.query('insert into file_part (show_id, id, part, body) values ($1, $2, $3, $4)', [
        showId,
        id,
        part,
        body,
      ]);
      part += 1;
    }
  });
}

async function* inParts(chunks: AsyncIterable<Uint8Array>): AsyncGenerator<Buffer> {
  let [held, size]: [Uint8Array[], number] = [[], 0];
  for await (const chunk of chunks) {
    held.push(chunk);
    size += chunk.length;
    if (size < partBytes) continue;
    const all = Buffer.concat(held);
    yield all.subarray(0, partBytes);
    held = [all.subarray(partBytes)];
    size -= partBytes;
  }
  if (size > 0) yield Buffer.concat(held);
}

export interface StoredDocument {
  readonly title: string;
  readonly fileId: string;
  readonly bytes: number;
}

/** A document of the show; undefined when there is none of this id. */
export async function findDocument(sql: Sql, showId: string, documentId: string): Promise<StoredDocument | undefined> {
  const { rows } = await sql.query<StoredDocument>(
    `select d.title, d.file_id as "fileId",
       (select coalesce(sum(octet_length(p.body)), 0)::integer from file_part p
          where p.show_id = d.show_id and p.id = d.file_id) as bytes
     from document d where d.show_id = $1 and d.id = $2`,
    [showId, documentId],
  );
  return rows[0];
}

/** The bytes of a paper, each part asked for when the one before has gone. */
export async function* fileParts(sql: Sql, showId: string, fileId: string): AsyncGenerator<Buffer> {
  for (let part = 0; ; part += 1) {
    const { rows } = await sql.query<{ body: Buffer }>(
      'select body from file_part where show_id = $1 and id = $2 and part = $3',
      [showId, fileId, part],
    );
    const [row] = rows;
    if (!row) return;
    yield row.body;
  }
}

/** The bytes of every paper that a show's documents name, in base64 by their SHA-256. */
export async function papersOf(sql: Sql, showId: string): Promise<Record<string, string>> {
  const { rows } = await sql.query<{ id: string; body: Buffer }>(
    `select p.id, string_agg(p.body, ''::bytea order by p.part) as body from file_part p
     where p.show_id = $1 and exists (select 1 from document d where d.show_id = p.show_id and d.file_id = p.id)
     group by p.id`,
    [showId],
  );
  return Object.fromEntries(rows.map(({ id, body }) => [id, body.toString('base64')]));
}
