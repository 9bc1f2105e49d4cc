import { createHash } from 'node:crypto';
import { Readable } from 'node:stream';
import { show as core } from '@deep-patch/core';
import express, { Router } from 'express';
import type { Pool } from 'pg';
import { keepFile, papersOf } from '../db/files.ts';
import { inTransaction } from '../db/pool.ts';
import { insertRowsOf, insertShow, loadShow, removeShow } from '../db/shows.ts';
import { Failure } from '../http/failure.ts';
import { knownShow } from '../http/known-show.ts';
import { readInput } from '../http/read-input.ts';
import { loadDemo } from './load-demo.ts';
import { madeOnce, showIdFor } from './made-once.ts';
import { copySchema, demoSchema } from './schemas.ts';

/** Shows that are made from others: copies, files, the demo anew. */
export function copyRoutes(pool: Pool, key: Buffer): Router {
  const routes = Router();
  routes.param('id', knownShow(pool));
  const small = express.json({ limit: '1mb' });
  const file = express.text({ type: 'application/json', limit: '60mb' });

  routes.post('/demo', small, async (request, response) => {
    const { key: once } = readInput(demoSchema, request.body);
    const id = showIdFor('harbour-finals', once);
    await madeOnce(once, () => loadDemo(pool, key, id));
    response.status(201).json({ id });
  });

  routes.post('/files', file, async (request, response) => {
    const text: unknown = request.body;
    if (typeof text !== 'string') throw new Failure('NOT_JSON');
    response.status(201).json({ id: await openFile(pool, text) });
  });

  routes.post('/:id/copies', small, async (request: express.Request<{ id: string }>, response) => {
    const { name, key: once } = readInput(copySchema, request.body);
    const { subtitle, ...show } = await loadShow(pool, request.params.id);
    const id = showIdFor(name, once);
    // papers belong to the show that has them: a template names none
    const copy = { ...core.templateOf({ ...show, subtitle }, { id, name, subtitle }), documents: {} };
    await madeOnce(once, () => inTransaction(pool, (client) => insertShow(client, copy)));
    response.status(201).json({ id });
  });

  routes.get('/:id/file', async (request, response) => {
    const [show, papers] = await Promise.all([loadShow(pool, request.params.id), papersOf(pool, request.params.id)]);
    response.attachment(`${show.name}.show.json`).json(core.writeShowFile(show, papers));
  });

  return routes;
}

/** A file becomes a show whole or not at all: its papers are kept by the hash of their bytes, whatever the file says. */
async function openFile(pool: Pool, text: string): Promise<string> {
  const id = showIdFor('opened');
  const read = core.readShowFile(text, id);
  if (!read.ok) throw new Failure('INVALID', { faults: read.faults });
  const papers = Object.entries(read.papers).map(([name, body]) => ({ name, bytes: Buffer.from(body, 'base64') }));
  const wrong = papers.filter(({ name, bytes }) => createHash('sha256').update(bytes).digest('hex') !== name);
  if (wrong.length > 0)
    throw new Failure('INVALID', {
      faults: wrong.map(({ name }) => ({ at: `papers.${name}`, message: 'These bytes have another SHA-256' })),
    });
  await inTransaction(pool, (client) => insertShow(client, { ...read.show, documents: {} }));
  try {
    for (const { name, bytes } of papers) await keepFile(pool, id, name, Readable.from([bytes]));
    await inTransaction(pool, (client) => insertRowsOf(client, read.show, 'documents'));
  } catch (error) {
    await removeShow(pool, id);
    throw error;
  }
  return id;
}
