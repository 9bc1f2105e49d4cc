import { mkdtempSync, readFileSync, rmSync, statSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { show as core, type Show } from '@deep-patch/core';
import pg from 'pg';
import { afterAll, beforeAll, describe, expect, test } from 'vitest';
import { makeDatabase, startServer } from '../../test/running.ts';

const me = 'author-keys-1';
const demo = '/shows/harbour-finals';
const dir = mkdtempSync(join(tmpdir(), 'deep-patch-key-'));
const file = join(dir, 'secret.key');
let database: Awaited<ReturnType<typeof makeDatabase>>;
beforeAll(async () => {
  database = await makeDatabase();
});
afterAll(async () => {
  await database.drop();
  rmSync(dir, { recursive: true });
});
const start = (newKey = false) => startServer(database.url, dir, newKey);
const query = async <Row extends pg.QueryResultRow>(text: string): Promise<Row[]> => {
  const client = new pg.Client({ connectionString: database.url });
  await client.connect();
  try {
    return (await client.query<Row>(text)).rows;
  } finally {
    await client.end();
  }
};

describe('passwords that are sent', () => {
  test('are answered with an id of their own, known or not; the same ones saved at once become one; guesses are not kept', async () => {
    const server = await start();
    const offer = async (password: string) =>
      String((await server.call('POST', `${demo}/secrets`, { password })).body['id']);
    const offered = await Promise.all(Array.from({ length: 8 }, () => offer('high water at six')));
    expect(new Set(offered).size).toBe(8);
    const show = (await server.call('GET', demo)).body as unknown as Show;
    const services = Object.values(show.services).slice(0, 8);
    const saved = await Promise.all(
      services.map((service, at) =>
        server.call('POST', `${demo}/changes`, {
          id: `key-${at}`,
          author: me,
          change: {
            label: 'Password',
            edits: [core.updateRow('services', service, { secretId: offered[at] ?? null })],
          },
        }),
      ),
    );
    expect(saved.map(({ status }) => status)).toEqual(services.map(() => 201));
    const now = (await server.call('GET', demo)).body as unknown as Show;
    expect(new Set(services.map(({ id }) => now.services[id]?.secretId)).size).toBe(1);
    const kept = await query<{ count: string }>('select count(*) from secret');
    // a guess that is right is answered like any other and is gone without a trace in the plan
    const guess = await offer('high water at six');
    expect(now.services[services[0]?.id ?? '']?.secretId).not.toBe(guess);
    for (let at = 0; at < 260; at += 1) await offer(`guess ${at}`);
    expect(await query('select count(*) from secret')).toEqual(kept);
    expect((await query<{ count: string }>('select count(*) from offered_secret'))[0]?.count).toBe('200');
    await server.stop();
  });
});

test('the server is nobody special in its database', async () => {
  await (await start()).stop();
  const role = `select rolsuper or rolcreatedb or rolcreaterole or rolreplication or rolbypassrls as special,
    (select count(*) from pg_tables where schemaname = 'public' and tableowner <> current_user) as foreign
    from pg_roles where rolname = current_user`;
  expect(await query(role)).toEqual([{ special: false, foreign: '0' }]);
  await expect(query('create role another')).rejects.toThrow('permission denied');
});

describe('the key of the passwords', () => {
  test('is made once, readable by its owner only; another one or none stops the start and names every password', async () => {
    const right = readFileSync(file, 'utf8');
    expect([Buffer.from(right, 'base64').length, statSync(file).mode & 0o777]).toEqual([32, 0o600]);
    const before = await query('select * from secret order by id');
    for (const spoil of [
      () => rmSync(file),
      () => writeFileSync(file, Buffer.alloc(32, 7).toString('base64')),
      () => writeFileSync(file, 'short'),
    ]) {
      spoil();
      const told = await start().catch((error: unknown) => String(error));
      expect(told).toMatch(/secret\.key is (missing|not the key).*Put the right one back.*--new-key/s);
      expect(told).toContain('  Harbour Finals: Camera 1 pan-tilt, web\n');
      expect(told).toContain('  Harbour Finals: Camera remote to Camera 1 pan-tilt\n');
    }
    expect(await query('select * from secret order by id')).toEqual(before);
    writeFileSync(file, right);
    await (await start()).stop();
  });

  test('that is lost for good is replaced when asked: no password stays that nobody can open, and the plan says what is missing', async () => {
    writeFileSync(file, 'lost');
    const server = await start(true);
    const show = (await server.call('GET', demo)).body as unknown as Show;
    expect([...Object.values(show.services), ...Object.values(show.links)].filter(({ secretId }) => secretId)).toEqual(
      [],
    );
    expect(await query('select 1 from secret union all select 1 from offered_secret')).toEqual([]);
    await server.stop();
    const again = await start();
    expect((await again.call('POST', `${demo}/secrets`, { password: 'new tide' })).status).toBe(201);
    await again.stop();
  });

  test('of an earlier release, without a test value, is checked by what it sealed', async () => {
    await query(`insert into secret (show_id, id, sealed) select show_id, id, sealed from offered_secret limit 1`);
    await query('delete from key_check');
    const right = readFileSync(file, 'utf8');
    writeFileSync(file, Buffer.alloc(32, 7).toString('base64'));
    await expect(start()).rejects.toThrow('is not the key');
    writeFileSync(file, right);
    await (await start()).stop();
    expect(await query('select (select count(*) from key_check) as checks, count(digest) from secret')).toEqual([
      { checks: '1', count: '1' },
    ]);
  });
});
