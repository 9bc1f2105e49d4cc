import { createHash } from 'node:crypto';
import { Router } from 'express';
import type { Pool } from 'pg';
import { keepFile, loadDocument } from '../db/files.ts';
import { Failure } from '../http/failure.ts';
import { knownShow } from '../http/known-show.ts';

export const mostFileBytes = 20_000_000;

/** Papers kept with a show: bytes go up by their hash, a change then names them, and they come back as a download. */
export function paperRoutes(pool: Pool): Router {
  const routes = Router();
  routes.param('id', knownShow(pool));

  routes.post('/:id/files', async (request, response) => {
    const body = await readWhole(request as AsyncIterable<Uint8Array>);
    const id = createHash('sha256').update(body).digest('hex');
    await keepFile(pool, request.params.id, { id, body });
    response.status(201).json({ fileId: id, bytes: body.length });
  });

  routes.get('/:id/documents/:documentId', async (request, response) => {
    const document = await loadDocument(pool, request.params.id, request.params.documentId);
    if (!document) throw new Failure('NO_DOCUMENT');
    // never shown inside the application: whatever a manual holds, the browser only saves it
    response.attachment(document.title).type('application/octet-stream').send(document.body);
  });

  return routes;
}

async function readWhole(chunks: AsyncIterable<Uint8Array>): Promise<Buffer> {
  const parts: Uint8Array[] = [];
  let bytes = 0;
  for await (const chunk of chunks) {
    bytes += chunk.length;
    if (bytes > mostFileBytes) throw new Failure('FILE_TOO_LARGE');
    parts.push(chunk);
  }
  if (bytes === 0) throw new Failure('FILE_EMPTY');
  return Buffer.concat(parts);
}
