import { randomUUID } from 'node:crypto';
import { analyse, wordsOf, show as core } from '@deep-patch/core';
import { shippedLibrary, typeLibrary } from '@deep-patch/demo';
import express, { Router } from 'express';
import type { Pool } from 'pg';
import { Changes } from '../db/changes.ts';
import { changesSince, nextStep } from '../db/log.ts';
import { readSeen } from '../db/observations.ts';
import { inTransaction } from '../db/pool.ts';
import { offerSecret } from '../db/secrets.ts';
import { editShow, insertShow, listShows, loadExists, loadShow, removeShow } from '../db/shows.ts';
import { Failure } from '../http/failure.ts';
import { knownShow } from '../http/known-show.ts';
import { readInput } from '../http/read-input.ts';
import type { ChangeReader } from './change-reader.ts';
import { madeOnce, showIdFor } from './made-once.ts';
import {
  authorQuery,
  editShowSchema,
  newSecretSchema,
  newShowSchema,
  saveChangeSchema,
  sinceSchema,
  stepSchema,
} from './schemas.ts';

/** Shows, their changes, undo and redo, what was seen of them, and the analysis, which is never stored. */
export function showRoutes(pool: Pool, key: Buffer, reader: ChangeReader): Router {
  const routes = Router();
  const changes = new Changes(pool);
  routes.param('id', knownShow(pool));
  const small = express.json({ limit: '1mb' });
  const large = express.text({ type: 'application/json', limit: '10mb' });

  routes.get('/', async (_request, response) => void response.json(await listShows(pool)));

  routes.post('/', small, async (request, response) => {
    const { name, subtitle, key } = readInput(newShowSchema, request.body);
    const show = newShow(name, subtitle, key);
    await madeOnce(key, () => inTransaction(pool, (client) => insertShow(client, show)));
    response.status(201).json({ id: show.id });
  });

  routes.patch('/:id', small, async (request: express.Request<{ id: string }>, response) => {
    const { name = null, subtitle = null, archived = null } = readInput(editShowSchema, request.body);
    await editShow(pool, request.params.id, { name, subtitle, archived });
    response.status(204).end();
  });

  routes.get('/:id', async (request, response) => void response.json(await loadShow(pool, request.params.id)));

  routes.delete('/:id', async (request, response) => {
    await removeShow(pool, request.params.id);
    response.status(204).end();
  });

  routes.post('/:id/changes', small, async (request: express.Request<{ id: string }>, response) => {
    response.status(201).json(await changes.save(request.params.id, readInput(saveChangeSchema, request.body)));
  });

  routes.post('/:id/imports', large, async (request: express.Request<{ id: string }>, response) => {
    const text: unknown = request.body;
    if (typeof text !== 'string') throw new Failure('NOT_JSON');
    const { rev, id } = await changes.save(request.params.id, await reader.read(text));
    response.status(201).json({ rev, id });
  });

  routes.get('/:id/changes', async (request, response) => {
    const { since } = readInput(sinceSchema, request.query);
    response.json({ changes: (await changesSince(pool, request.params.id, since)) ?? null });
  });

  for (const kind of ['undo', 'redo'] as const)
    routes.post(`/:id/${kind}`, small, async (request: express.Request<{ id: string }>, response) => {
      const { rev, label } = await changes.stepBack(request.params.id, readInput(stepSchema, request.body), kind);
      response.json({ rev, label });
    });

  routes.get('/:id/history', async (request, response) => {
    const { author } = readInput(authorQuery, request.query);
    const [undo, redo] = await Promise.all([
      nextStep(pool, request.params.id, author, 'undo'),
      nextStep(pool, request.params.id, author, 'redo'),
    ]);
    response.json({ undo: undo?.label ?? null, redo: redo?.label ?? null });
  });

  routes.post('/:id/secrets', small, async (request: express.Request<{ id: string }>, response) => {
    const { password } = readInput(newSecretSchema, request.body);
    const wanted = { showId: request.params.id, id: `s-${randomUUID().slice(0, 18)}`, text: password };
    await inTransaction(pool, async (client) => {
      await loadExists(client, wanted.showId);
      await offerSecret(client, key, wanted);
    });
    response.status(201).json({ id: wanted.id });
  });

  routes.get('/:id/seen', async (request, response) => void response.json(await readSeen(pool, request.params.id)));

  routes.get('/:id/analysis', async (request, response) => {
    const [show, seen] = await Promise.all([loadShow(pool, request.params.id), readSeen(pool, request.params.id)]);
    const { rev, findings, depths } = analyse(show, seen, Date.now());
    response.json({
      rev,
      findings: findings.map((finding) => ({ ...finding, words: wordsOf(finding) })),
      links: [...depths].map(([id, depth]) => ({ id, ...depth })),
    });
  });

  return routes;
}

/** A show of that name with the type library that ships. */
function newShow(name: string, subtitle: string, key?: string): core.Show {
  const types = Object.fromEntries(typeLibrary.map((type) => [type.id, { ...type, rev: 0 }]));
  const libraries = { [shippedLibrary.id]: { ...shippedLibrary, rev: 0 } };
  return { ...core.emptyShow({ id: showIdFor(name, key), name, subtitle }), libraries, types };
}
