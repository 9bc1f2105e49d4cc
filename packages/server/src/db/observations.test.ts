import type { show as core } from '@deep-patch/core';
import pg from 'pg';
import { afterAll, beforeAll, expect, test } from 'vitest';
import { startServer, type TestServer } from '../../test/running.ts';
import { ageSoundings, keepSounding } from './observations.ts';

let server: TestServer;
let pool: pg.Pool;
beforeAll(async () => {
  server = await startServer();
  pool = new pg.Pool({ connectionString: server.databaseUrl });
});
afterAll(async () => {
  await pool.end();
  await server.stop();
});

test('what happened ages what was begun before it, once, and nothing that was begun since', async () => {
  const sounded = (linkId: string, at: number): core.MeasuredSounding => ({
    ...{ linkId, source: 'bench', at, rev: 1, basis: 'x', layers: [], rttMs: null, back: null },
  });
  await keepSounding(pool, 'harbour-finals', sounded('host-to-desk', 1000));
  await keepSounding(pool, 'harbour-finals', sounded('host-to-media', 2000));
  const age = (at: number) => ageSoundings(pool, 'harbour-finals', ['host-to-desk', 'host-to-media'], at);
  expect([await age(1000), await age(1001), await age(1001)]).toEqual([false, true, false]);
  const { rows } = await pool.query(
    `select subject_id as id, value ? 'aged' as aged from observation where kind = 'sounding' order by subject_id`,
  );
  expect(rows).toEqual([
    { id: 'host-to-desk', aged: true },
    { id: 'host-to-media', aged: false },
  ]);
});
