import { contract, show as core } from '@deep-patch/core';
import express, { Router } from 'express';
import type { Pool } from 'pg';
import { z } from 'zod';
import { Failure } from '../http/failure.ts';
import { knownShow } from '../http/known-show.ts';
import { readInput } from '../http/read-input.ts';
import type { BenchRoom } from './bench-room.ts';

export const powerSchema = z.strictObject({ deviceIds: z.array(core.idSchema).min(1).max(5000), on: z.boolean() });
export const soundSchema = z.strictObject({ linkId: core.idSchema });
export const jackSchema = z.strictObject({
  deviceId: core.idSchema,
  serviceKey: core.idSchema,
  replyTo: z.int().min(1).max(65_535).nullable(),
});
const portSchema = z.strictObject({ showId: z.string(), port: z.coerce.number().int().min(1).max(65_535) });

const frameSchema = z.strictObject({ showId: z.string(), number: z.coerce.number().int().min(0) });

/** The bench of a show: power, soundings, and jacks for outside tools. */
export function benchRoutes(pool: Pool, room: BenchRoom): Router {
  const routes = Router();
  routes.param('showId', knownShow(pool));
  routes.use(express.json({ limit: '1mb' }));

  routes.get('/:showId', async ({ params }, response) => void response.json(await room.state(params.showId)));

  routes.post('/:showId/power', async ({ params, body }, response) => {
    const { deviceIds, on } = readInput(powerSchema, body);
    response.json(await room.power(params.showId, deviceIds, on));
  });

  routes.post('/:showId/sound', async ({ params, body }, response) => {
    const { linkId } = readInput(soundSchema, body);
    response.json(await room.sound(params.showId, linkId));
  });

  routes.post('/:showId/acts', async ({ params, body }, response) => {
    response.json(await room.act(params.showId, readInput(contract.actSchema, body)));
  });

  routes.post('/:showId/moves', async ({ params, body }, response) => {
    const { rev, ...moved } = readInput(contract.sentMovesSchema, body);
    await room.moves(params.showId, moved, rev);
    response.status(204).end();
  });

  routes.get('/:showId/addresses', async ({ params }, response) => {
    response.json(await room.addresses(params.showId));
  });

  routes.get('/:showId/units/:deviceId/ways', async ({ params }, response) => {
    response.json(await room.ways(params.showId, readInput(core.idSchema, params.deviceId)));
  });

  routes.get('/:showId/frames/:number', async ({ params }, response) => {
    const { showId, number } = readInput(frameSchema, params);
    const anatomy = await room.frame(showId, number);
    if (!anatomy) throw new Failure('FRAME_GONE', { number });
    response.json(anatomy);
  });

  routes.get('/:showId/capture.pcapng', async ({ params }, response) => {
    const bytes = await room.capture(params.showId);
    response.attachment('bench.pcapng').type('application/octet-stream').send(bytes);
  });

  routes.post('/:showId/jacks', async ({ params, body }, response) => {
    response.status(201).json(await room.jack(params.showId, readInput(jackSchema, body)));
  });

  routes.delete('/:showId/jacks/:port', async ({ params }, response) => {
    const { showId, port } = readInput(portSchema, params);
    response.json(await room.closeJack(showId, port));
  });

  return routes;
}
