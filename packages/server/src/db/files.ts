import type { Sql } from './pool.ts';

/** Keeps the bytes of a paper once a show: the same bytes again change nothing. */
export async function keepFile(sql: Sql, showId: string, file: { id: string; body: Buffer }): Promise<void> {
  await sql.query('insert into file (show_id, id, body) values ($1, $2, $3) on conflict do nothing', [
    showId,
    file.id,
    file.body,
  ]);
}

/** The title and bytes of a document of the show; undefined when there is none of this id. */
export async function loadDocument(
  sql: Sql,
  showId: string,
  documentId: string,
): Promise<{ title: string; body: Buffer } | undefined> {
  const { rows } = await sql.query<{ title: string; body: Buffer }>(
    `select d.title, f.body from document d join file f on f.show_id = d.show_id and f.id = d.file_id
     where d.show_id = $1 and d.id = $2`,
    [showId, documentId],
  );
  return rows[0];
}
