import { createHash } from 'node:crypto';
import { readdir, readFile } from 'node:fs/promises';
import { join } from 'node:path';
import type { ClientBase } from 'pg';

const lockKey = 727_001; // any constant of this application

/** Applies NNNN_name.sql files in order, each in its own transaction; refuses a file changed after it was applied. */
export async function migrate(client: ClientBase, dir: string): Promise<string[]> {
  const files = (await readdir(dir)).filter((file) => /^\d{4}_[a-z0-9_]+\.sql$/.test(file)).sort();
  const applied: string[] = [];
  await client.query('select pg_advisory_lock($1)', [lockKey]);
  try {
    await client.query(`create table if not exists schema_migration (
      name text primary key, sha256 text not null, applied_at timestamptz not null default now())`);
    const { rows } = await client.query<{ name: string; sha256: string }>('select name, sha256 from schema_migration');
    const done = new Map(rows.map((row) => [row.name, row.sha256]));
    for (const name of files) if (await applyOne(client, dir, name, done.get(name))) applied.push(name);
  } finally {
    await client.query('select pg_advisory_unlock($1)', [lockKey]);
  }
  return applied;
}

async function applyOne(client: ClientBase, dir: string, name: string, before: string | undefined): Promise<boolean> {
  const sql = await readFile(join(dir, name), 'utf8');
  const sha256 = createHash('sha256').update(sql).digest('hex');
  if (before === sha256) return false;
  if (before !== undefined) throw new Error(`migration ${name} was changed after it was applied`);
  await client.query('begin');
  try {
    await client.query(sql); // no parameters: the simple protocol takes many statements
    await client.query('insert into schema_migration (name, sha256) values ($1, $2)', [name, sha256]);
    await client.query('commit');
    return true;
  } catch (cause) {
    await client.query('rollback');
    throw new Error(`migration ${name} failed`, { cause });
  }
}
