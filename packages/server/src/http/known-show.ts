import type { RequestParamHandler } from 'express';
import type { Pool } from 'pg';
import { Failure } from './failure.ts';
import { isKeepable } from './read-input.ts';

/** For the `id` in a path: whatever is asked of a show that is not there, the answer is that it is not there. */
export const knownShow =
  (pool: Pool): RequestParamHandler =>
  async (_request, _response, next, showId: string) => {
    const found = isKeepable(showId) ? await pool.query('select 1 from show where id = $1', [showId]) : undefined;
    if (!found?.rowCount) throw new Failure('SHOW_NOT_FOUND', { showId });
    next();
  };
