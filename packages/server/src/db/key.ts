import { randomBytes, randomUUID } from 'node:crypto';
import { existsSync, mkdirSync, readFileSync, renameSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';
import { show as core } from '@deep-patch/core';
import type { Pool } from 'pg';
import { inTransaction } from './pool.ts';
import { digestOf, seal, unseal } from './secrets.ts';
import { loadShow } from './shows.ts';
import { writeBatch } from './write-batch.ts';

const keyBytes = 32;
/** What the sealed test value belongs to and says. */
const [checkOwner, checkText] = ['key check', 'sealed with the right key'];
/** The author of changes that the server itself makes. */
const ownAuthor = 'deep-patch-itself';

/**
 * The key that seals device passwords: a file in the data folder, outside the database, readable by its owner only. It
 * is made where no password exists yet. A key that is lost or another one is never replaced in silence: the error names
 * every password that would have to be entered again, and `makeNew` says that they may be forgotten.
 */
export async function openKey(pool: Pool, dataDir: string, makeNew: boolean): Promise<Buffer> {
  const file = join(dataDir, 'secret.key');
  const known = readKey(file);
  if (known && (await fits(pool, known))) return settled(pool, known);
  const lost = await passwordPlaces(pool);
  const isFirst = !existsSync(file) && !(await isSealed(pool));
  if (!isFirst && !makeNew) throw new Error(lostWords(file, lost));
  const key = randomBytes(keyBytes);
  if (existsSync(file)) renameSync(file, `${file}.before-${Date.now()}`);
  mkdirSync(dataDir, { recursive: true });
  writeFileSync(file, key.toString('base64'), { mode: 0o600, flag: 'wx' });
  await forgetPasswords(pool, lost);
  return settled(pool, key);
}

function readKey(file: string): Buffer | undefined {
  const key = existsSync(file) ? Buffer.from(readFileSync(file, 'utf8'), 'base64') : undefined;
  return key?.length === keyBytes ? key : undefined;
}

async function isSealed(pool: Pool): Promise<boolean> {
  const { rowCount } = await pool.query('(select 1 from key_check) union all (select 1 from secret limit 1)');
  return (rowCount ?? 0) > 0;
}

/** Does a key open the test value, or, in a database of an earlier release, the passwords? */
async function fits(pool: Pool, key: Buffer): Promise<boolean> {
  const { rows } = await pool.query<{ owner: string; sealed: Buffer }>(
    `(select $1 as owner, sealed from key_check) union all (select show_id as owner, sealed from secret limit 1)`,
    [checkOwner],
  );
  try {
    return rows.every(({ owner, sealed }) => unseal(key, owner, sealed) !== undefined);
  } catch {
    return false;
  }
}

/** Leaves the test value, and the digests that passwords of earlier releases do not have. */
async function settled(pool: Pool, key: Buffer): Promise<Buffer> {
  await pool.query('insert into key_check (sealed) values ($1) on conflict do nothing', [
    seal(key, checkOwner, checkText),
  ]);
  const { rows } = await pool.query<{ showId: string; id: string; sealed: Buffer }>(
    'select show_id as "showId", id, sealed from secret where digest is null',
  );
  for (const { showId, id, sealed } of rows)
    await pool.query(
      `update secret set digest = $3 where show_id = $1 and id = $2
         and not exists (select 1 from secret other where other.show_id = $1 and other.digest = $3)`,
      [showId, id, digestOf(key, showId, unseal(key, showId, sealed))],
    );
  return key;
}

interface Place {
  readonly showId: string;
  readonly show: string;
  readonly words: string;
}

/** Where passwords are set, in the order of shows and units. */
async function passwordPlaces(pool: Pool): Promise<Place[]> {
  const { rows } = await pool.query<Place>(
    `select s.id as "showId", s.name as show, d.name || ', ' || v.key as words
       from service v join device d on (d.show_id, d.id) = (v.show_id, v.device_id) join show s on s.id = v.show_id
       where v.secret_id is not null
     union all
     select s.id, s.name, c.name || ' to ' || t.name from link l
       join device c on (c.show_id, c.id) = (l.show_id, l.controller_id)
       join device t on (t.show_id, t.id) = (l.show_id, l.target_id) join show s on s.id = l.show_id
       where l.secret_id is not null
     order by show, words`,
  );
  return rows;
}

const lostWords = (file: string, places: readonly Place[]): string =>
  [
    existsSync(file)
      ? `${file} is not the key that sealed the passwords of this database.`
      : `${file} is missing: it is the key that sealed the passwords of this database.`,
    'Put the right one back (from a backup of the data folder) and start again.',
    places.length === 0
      ? 'No password is set, so nothing is lost with it: "npm start -- --new-key" makes a new one.'
      : 'Without it these passwords have to be entered again; "npm start -- --new-key" makes a new key and leaves them empty:',
    ...places.map(({ show, words }) => `  ${show}: ${words}`),
  ].join('\n');

/** Empties what nobody can open any more, as a change like any other, so that the plan says where passwords are missing. */
async function forgetPasswords(pool: Pool, places: readonly Place[]): Promise<void> {
  for (const showId of new Set(places.map((place) => place.showId))) {
    const show = await loadShow(pool, showId);
    const withPassword = ({ secretId }: { readonly secretId: string | null }) => secretId !== null;
    const edits = [
      ...Object.values(show.services)
        .filter(withPassword)
        .map((row) => core.updateRow('services', row, { secretId: null })),
      ...Object.values(show.links)
        .filter(withPassword)
        .map((row) => core.updateRow('links', row, { secretId: null })),
    ];
    const change = { label: 'Forget passwords whose key was lost', edits };
    const asked = { id: randomUUID(), author: ownAuthor, kind: 'do' as const, change };
    await inTransaction(pool, (client) => writeBatch(client, showId, [asked]));
  }
  await pool.query('delete from secret');
  await pool.query('delete from offered_secret');
  await pool.query('delete from key_check');
}
