import { demoPasswords, demoShow } from '@deep-patch/demo';
import type { Pool } from 'pg';
import { inTransaction } from '../db/pool.ts';
import { keepSecret } from '../db/secrets.ts';
import { insertShow } from '../db/shows.ts';

/** The demo show, under its own id or another. Secrets are checked at commit, so the order of rows and secrets does not matter. */
export async function loadDemo(pool: Pool, key: Buffer, id?: string): Promise<void> {
  const show = id === undefined ? demoShow() : { ...demoShow(), id };
  await inTransaction(pool, async (client) => {
    await insertShow(client, show);
    for (const [secretId, text] of Object.entries(demoPasswords))
      await keepSecret(client, key, { showId: show.id, id: secretId, text });
  });
}
