import { randomUUID } from 'node:crypto';
import { readdirSync } from 'node:fs';
import { join } from 'node:path';
import { afterAll, beforeAll, expect, test } from 'vitest';
import { startServer, type TestServer } from '../../test/running.ts';
import { mostFileBytes } from './receive.ts';

let server: TestServer;
beforeAll(async () => {
  server = await startServer();
});
afterAll(() => server.stop());
const demo = '/shows/harbour-finals';
const api = (path: string) => `http://127.0.0.1:${server.port}/api${path}`;
const put = (body: Uint8Array<ArrayBuffer>) => fetch(api(`${demo}/files`), { method: 'POST', body });

async function keep(title: string, fileId: string, bytes: number) {
  const id = `d-${randomUUID().slice(0, 18)}`;
  const after = { id, model: 'pan-tilt-camera', title, fileId, bytes };
  const change = { label: `Keep ${title}`, edits: [{ table: 'documents', id, base: 0, before: null, after }] };
  const body = { id: `c-${id}`, author: 'author-papers-1', change };
  return { id, answer: await server.call('POST', `${demo}/changes`, body) };
}

test('a paper goes up, is named by a change, comes back byte for byte as a download, and undo takes it out', async () => {
  // more than two parts of what the database keeps in one row
  const bytes = Uint8Array.from({ length: 700_000 }, (_, at) => (at * 31 + (at >> 9)) & 255);
  const { fileId } = (await (await put(bytes)).json()) as { fileId: string };
  // the same bytes again are the same file
  expect(((await (await put(bytes)).json()) as { fileId: string }).fileId).toBe(fileId);
  const title = '../Füße & "quotes"<script>.html';
  const { id, answer } = await keep(title, fileId, bytes.length);
  expect(answer.status).toBe(201);
  const response = await fetch(api(`${demo}/documents/${id}`));
  expect(Buffer.from(await response.arrayBuffer()).equals(bytes)).toBe(true);
  expect(response.headers.get('content-type')).toMatch(/^application\/octet-stream/);
  expect(response.headers.get('content-disposition')).toMatch(/^attachment; filename/);
  expect(response.headers.get('x-content-type-options')).toBe('nosniff');
  await server.call('POST', `${demo}/undo`, { id: `u-${id}`, author: 'author-papers-1' });
  expect((await server.call('GET', `${demo}/documents/${id}`)).body.code).toBe('NO_DOCUMENT');
});

test('a paper without bytes, a file too large, one that was never sent and a foreign show are refused', async () => {
  expect(((await (await put(new Uint8Array())).json()) as { code: string }).code).toBe('FILE_EMPTY');
  const large = await put(new Uint8Array(mostFileBytes + 1));
  expect([large.status, ((await large.json()) as { code: string }).code]).toEqual([413, 'FILE_TOO_LARGE']);
  expect((await keep('never sent', 'a'.repeat(64), 3)).answer.body.code).toBe('DANGLING');
  expect((await server.call('POST', '/shows/nobody/files', {})).body.code).toBe('SHOW_NOT_FOUND');
  // nothing is left of what was on its way
  expect(readdirSync(join(server.dataDir, 'arriving'))).toEqual([]);
});

test('a large import is read beside: others are answered meanwhile, and every fault is told with its place', async () => {
  const edits = Array.from({ length: 15_000 }, (_, at) => {
    const after = {
      id: `u${at}`,
      typeId: 'tablet',
      name: at === 14_999 ? '' : `Unit ${at}`,
      unit: null,
      place: '',
      firmware: null,
      note: '',
    };
    return { table: 'devices', id: `u${at}`, base: 0, before: null, after };
  });
  const body = { id: 'c-large-1', author: 'author-papers-1', change: { label: 'Many', edits } };
  const order: string[] = [];
  const large = server.call('POST', `${demo}/imports`, body).then((answer) => (order.push('large'), answer));
  for (let asked = 0; asked < 5; asked += 1) {
    await server.call('GET', '/openapi.json');
    order.push('small');
  }
  const { status, body: told } = await large;
  expect([status, told['faults']]).toMatchObject([422, [{ at: 'change.edits.14999.after.name' }]]);
  expect(order.slice(0, 2)).toEqual(['small', 'small']);
});
