import { createCipheriv, createDecipheriv, createHmac, randomBytes } from 'node:crypto';
import type { Change } from '@deep-patch/core';
import type { Sql } from './pool.ts';

const ivBytes = 12;
const tagBytes = 16;
/** Offers that no change took up: so many of a show are kept, and so long. */
const [mostOffers, offerHours] = [200, 12];

interface Secret {
  readonly showId: string;
  readonly id: string;
  readonly text: string;
}

/** AES-256-GCM (NIST SP 800-38D) with a fresh nonce; what it belongs to is authenticated, so that no row can be moved. */
export function seal(key: Buffer, belongsTo: string, text: string): Buffer {
  const iv = randomBytes(ivBytes);
  const cipher = createCipheriv('aes-256-gcm', key, iv).setAAD(Buffer.from(belongsTo));
  const body = Buffer.concat([cipher.update(text, 'utf8'), cipher.final()]);
  return Buffer.concat([iv, cipher.getAuthTag(), body]);
}

/** Throws where the key or the owner is another one. */
export function unseal(key: Buffer, belongsTo: string, sealed: Buffer): string {
  const decipher = createDecipheriv('aes-256-gcm', key, sealed.subarray(0, ivBytes)).setAAD(Buffer.from(belongsTo));
  decipher.setAuthTag(sealed.subarray(ivBytes, ivBytes + tagBytes));
  return decipher.update(sealed.subarray(ivBytes + tagBytes), undefined, 'utf8') + decipher.final('utf8');
}

/** Equal for equal passwords of one show, and worth nothing without the key (HMAC-SHA-256, RFC 2104). */
export function digestOf(key: Buffer, showId: string, text: string): Buffer {
  const own = createHmac('sha256', key).update('digest of passwords').digest();
  return createHmac('sha256', own).update(`${showId}\0${text}`).digest();
}

const sealedOf = (key: Buffer, { showId, id, text }: Secret) => [
  showId,
  id,
  seal(key, showId, text),
  digestOf(key, showId, text),
];

/** Keeps a password under an id that rows already name. */
export async function keepSecret(sql: Sql, key: Buffer, secret: Secret): Promise<void> {
  await sql.query('insert into secret (show_id, id, sealed, digest) values ($1, $2, $3, $4)', sealedOf(key, secret));
}

/**
 * Takes a password in under a new id. Only a change that names it makes it one of the show's, so that a guess is neither
 * answered nor kept.
 */
export async function offerSecret(sql: Sql, key: Buffer, secret: Secret): Promise<void> {
  await sql.query(
    'insert into offered_secret (show_id, id, sealed, digest) values ($1, $2, $3, $4)',
    sealedOf(key, secret),
  );
  await sql.query(
    `delete from offered_secret where show_id = $1 and (at < now() - make_interval(hours => $2)
       or id in (select id from offered_secret where show_id = $1 order by at desc offset $3))`,
    [secret.showId, offerHours, mostOffers],
  );
}

/**
 * Makes the offered passwords that a change names the show's own, and answers the change with the ids that they have
 * there: the same password of one show has one id, so that a rule can tell "same" from "differs" by ids alone and never
 * needs the text. The show is locked by the caller.
 */
export async function takeOffers(sql: Sql, showId: string, change: Change): Promise<Change> {
  const named = change.edits.flatMap(({ after }) => secretOf(after) ?? []);
  if (named.length === 0) return change;
  const { rows } = await sql.query<{ offered: string; id: string }>(
    `with offer as (
       delete from offered_secret where show_id = $1 and id = any($2::text[]) returning id, sealed, digest
     ), taken as (
       insert into secret (show_id, id, sealed, digest)
         select distinct on (digest) $1, id, sealed, digest from offer on conflict (show_id, digest) do nothing
         returning id, digest
     )
     select offer.id as offered, coalesce(taken.id, known.id) as id from offer
       left join taken on taken.digest = offer.digest
       left join secret known on known.show_id = $1 and known.digest = offer.digest`,
    [showId, [...new Set(named)]],
  );
  const ids = new Map(rows.map(({ offered, id }) => [offered, id]));
  const edits = change.edits.map((edit) => {
    const id = ids.get(secretOf(edit.after) ?? '');
    return id === undefined ? edit : { ...edit, after: { ...edit.after, secretId: id } };
  });
  return { ...change, edits: edits as Change['edits'] };
}

export const namesSecret = ({ after }: Change['edits'][number]): boolean => secretOf(after) !== undefined;

function secretOf(after: object | null): string | undefined {
  return after && 'secretId' in after && typeof after.secretId === 'string' ? after.secretId : undefined;
}

/** All passwords of a show in clear, for the bench alone. */
export async function openSecrets(sql: Sql, key: Buffer, showId: string): Promise<Record<string, string>> {
  const { rows } = await sql.query<{ id: string; sealed: Buffer }>('select id, sealed from secret where show_id = $1', [
    showId,
  ]);
  return Object.fromEntries(rows.map(({ id, sealed }) => [id, unseal(key, showId, sealed)]));
}
