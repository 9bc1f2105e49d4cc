import express, { Router } from 'express';
import type { Pool } from 'pg';
import { forgetFound, keepFound } from '../db/observations.ts';
import { knownShow } from '../http/known-show.ts';
import { readInput } from '../http/read-input.ts';
import { readCapture } from './read-capture.ts';
import { foundSchema } from './schemas.ts';

/** What was found on the networks of a show: captures are read, hosts are taken in or forgotten. */
export function foundRoutes(pool: Pool, tellSeen: (showId: string) => void): Router {
  const routes = Router();
  routes.param('id', knownShow(pool));

  routes.post('/:id/captures', async (request, response) => {
    response.json(await readCapture(request as AsyncIterable<Uint8Array>, Date.now()));
  });

  routes.post('/:id/found', express.json({ limit: '10mb' }), async (request, response) => {
    const { hosts } = readInput(foundSchema, request.body);
    await keepFound(pool, request.params.id, hosts);
    tellSeen(request.params.id);
    response.status(201).json({ hosts: hosts.length });
  });

  routes.delete('/:id/found', async (request, response) => {
    await forgetFound(pool, request.params.id);
    tellSeen(request.params.id);
    response.status(204).end();
  });

  return routes;
}
