import { createCipheriv, createDecipheriv, randomBytes, timingSafeEqual } from 'node:crypto';
import { existsSync, mkdirSync, readFileSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';
import type { Sql } from './pool.ts';

const keyBytes = 32;
const ivBytes = 12;
const tagBytes = 16;

/** The key that seals device passwords: a file in the data folder, outside the database, readable by its owner only. */
export function readKey(dataDir: string): Buffer {
  const file = join(dataDir, 'secret.key');
  if (!existsSync(file)) {
    mkdirSync(dataDir, { recursive: true });
    writeFileSync(file, randomBytes(keyBytes).toString('base64'), { mode: 0o600, flag: 'wx' });
  }
  const key = Buffer.from(readFileSync(file, 'utf8'), 'base64');
  if (key.length !== keyBytes)
    throw new Error(`${file} does not hold a key of ${keyBytes} bytes: put the right one back`);
  return key;
}

/** AES-256-GCM (NIST SP 800-38D) with a fresh nonce; the show's id is authenticated, so that no row can be moved. */
function seal(key: Buffer, showId: string, text: string): Buffer {
  const iv = randomBytes(ivBytes);
  const cipher = createCipheriv('aes-256-gcm', key, iv).setAAD(Buffer.from(showId));
  const body = Buffer.concat([cipher.update(text, 'utf8'), cipher.final()]);
  return Buffer.concat([iv, cipher.getAuthTag(), body]);
}

function unseal(key: Buffer, showId: string, sealed: Buffer): string {
  const decipher = createDecipheriv('aes-256-gcm', key, sealed.subarray(0, ivBytes)).setAAD(Buffer.from(showId));
  decipher.setAuthTag(sealed.subarray(ivBytes, ivBytes + tagBytes));
  return decipher.update(sealed.subarray(ivBytes + tagBytes), undefined, 'utf8') + decipher.final('utf8');
}

/**
 * Keeps a password and answers with its id. The same password of one show keeps its id, so that a rule can tell
 * "same" from "differs" by ids alone and never needs the text.
 */
export async function keepSecret(
  sql: Sql,
  key: Buffer,
  wanted: { showId: string; id: string; text: string },
): Promise<string> {
  const { showId, id, text } = wanted;
  for (const [knownId, known] of Object.entries(await openSecrets(sql, key, showId)))
    if (sameText(known, text)) return knownId;
  await sql.query('insert into secret (show_id, id, sealed) values ($1, $2, $3)', [
    showId,
    id,
    seal(key, showId, text),
  ]);
  return id;
}

/** All passwords of a show in clear, for the bench alone. */
export async function openSecrets(sql: Sql, key: Buffer, showId: string): Promise<Record<string, string>> {
  const { rows } = await sql.query<{ id: string; sealed: Buffer }>('select id, sealed from secret where show_id = $1', [
    showId,
  ]);
  return Object.fromEntries(rows.map(({ id, sealed }) => [id, unseal(key, showId, sealed)]));
}

function sameText(a: string, b: string): boolean {
  const [left, right] = [Buffer.from(a), Buffer.from(b)];
  return left.length === right.length && timingSafeEqual(left, right);
}
