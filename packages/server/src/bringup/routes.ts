import { bringup } from '@deep-patch/core';
import { Router } from 'express';
import type { Pool } from 'pg';
import { loadShow } from '../db/shows.ts';
import { knownShow } from '../http/known-show.ts';
import { sheetsPdf } from './sheets-pdf.ts';

/** The sheets of a bring-up for the rack: one page a unit. */
export function bringUpRoutes(pool: Pool): Router {
  const routes = Router();
  routes.param('id', knownShow(pool));
  routes.get('/:id/sheets.pdf', async (request, response) => {
    const { id } = request.params;
    const show = await loadShow(pool, id);
    const sheetUrl = `${request.protocol}://${request.get('host') ?? '127.0.0.1'}/shows/${id}/bring-up`;
    response.attachment(`${id}-sheets.pdf`).type('application/pdf');
    sheetsPdf(show, bringup.bringUp(show), sheetUrl).pipe(response);
  });
  return routes;
}
