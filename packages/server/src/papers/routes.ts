import { pipeline } from 'node:stream/promises';
import { Router } from 'express';
import type { Pool } from 'pg';
import { fileParts, findDocument, keepFile } from '../db/files.ts';
import { Failure } from '../http/failure.ts';
import { knownShow } from '../http/known-show.ts';
import { receive } from './receive.ts';

/**
 * Papers kept with a show: bytes go up by their hash, a change then names them, and they come back as a download. What is
 * on its way lies in `folder`.
 */
export function paperRoutes(pool: Pool, folder: string): Router {
  const routes = Router();
  routes.param('id', knownShow(pool));

  routes.post('/:id/files', async (request, response) => {
    const paper = await receive(request as AsyncIterable<Uint8Array>, folder);
    try {
      await keepFile(pool, request.params.id, paper.id, paper.chunks());
    } finally {
      await paper.remove();
    }
    response.status(201).json({ fileId: paper.id, bytes: paper.bytes });
  });

  routes.get('/:id/documents/:documentId', async (request, response) => {
    const { id, documentId } = request.params;
    const document = await findDocument(pool, id, documentId);
    if (!document) throw new Failure('NO_DOCUMENT');
    // never shown inside the application: whatever a manual holds, the browser only saves it
    response.attachment(document.title).type('application/octet-stream').set('content-length', `${document.bytes}`);
    await pipeline(fileParts(pool, id, document.fileId), response);
  });

  return routes;
}
