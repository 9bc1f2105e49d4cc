import { cpSync, mkdtempSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { show as core, type Show } from '@deep-patch/core';
import pg from 'pg';
import { afterAll, expect, test } from 'vitest';
import { makeDatabase, startServer } from '../../test/running.ts';
import { migrate } from './migrate.ts';

const migrations = join(import.meta.dirname, '../../migrations');
const dir = mkdtempSync(join(tmpdir(), 'deep-patch-migrations-'));
afterAll(() => rmSync(dir, { recursive: true }));

/** A show as the first release wrote it: rows without what was added since. */
const oldType = {
  id: 'camera',
  name: 'Camera',
  kind: 'camera',
  factory: { mode: 'static', ip: '10.88.0.40', prefix: 24 },
  adapters: [{ key: 'lan', label: 'network' }],
  sockets: [{ key: 'port-1', label: 'port 1', adapter: 'lan' }],
  forwards: false,
  services: [
    {
      key: 'web',
      label: 'remote control',
      protocol: 'http',
      transport: 'tcp',
      receivePort: 80,
      sendPort: null,
      login: 'digest',
      onByDefault: true,
      lowestFirmware: null,
      commands: [],
    },
  ],
  drives: [],
  face: [],
  setFrom: ['front menu', 'web page'],
  restartsAfterAddress: true,
};
const oldDevice = { id: 'd', typeId: 'camera', name: 'One', unit: 1, place: '', firmware: null, note: '' };

test('a database of the first release becomes one of today, its shows stay whole, and old changes can be taken back', async () => {
  cpSync(join(migrations, '0001_shows.sql'), join(dir, '0001_shows.sql'));
  const database = await makeDatabase();
  const client = new pg.Client({ connectionString: database.url });
  await client.connect();
  await migrate(client, dir);
  await client.query(`insert into show (id, name, rev) values ('old', 'Old', 2)`);
  await client.query(
    `insert into device_type (show_id, id, rev, name, kind, data) values ('old', 'camera', 1, 'Camera', 'camera', $1)`,
    [JSON.stringify(oldType)],
  );
  await client.query(
    `insert into device (show_id, id, rev, type_id, name, unit, place, note) values ('old', 'd', 2, 'camera', 'Two', 1, '', '')`,
  );
  const edit = { table: 'devices', id: 'd', base: 1, before: oldDevice, after: { ...oldDevice, name: 'Two' } };
  await client.query(
    `insert into change (show_id, rev, id, kind, label, author, edits) values ('old', 2, 'c2', 'do', 'Rename', 'author-old-01', $1)`,
    [JSON.stringify([edit])],
  );
  await client.end();

  const server = await startServer(database.url);
  const show = (await server.call('GET', '/shows/old')).body as unknown as Show;
  for (const table of core.tableNames)
    for (const row of core.rowsOf(show, table))
      expect([table, core.schemas[table].safeParse(core.contentOf(row)).error?.issues]).toEqual([table, undefined]);
  expect(core.typeOf(show, show.devices['d'])).toMatchObject({
    model: 'camera',
    ways: [{ way: 'menu' }, { way: 'web' }],
    commits: [{ of: 'address', acts: [{ act: 'restart_device' }] }],
    services: [{ logins: ['digest'] }],
    sets: 0,
    lampMeans: null,
  });
  const undone = await server.call('POST', '/shows/old/undo', { id: 'undo-1', author: 'author-old-01' });
  const after = (await server.call('GET', '/shows/old')).body as unknown as Show;
  expect([undone.status, after.devices['d']?.name]).toEqual([200, 'One']);
  await server.stop();
  await database.drop();
});
