import type { RequestParamHandler } from 'express';
import type { Pool } from 'pg';
import { Failure } from './failure.ts';
import { isKeepable } from './read-input.ts';

/**
 * For the `id` in a path: whatever is asked of a show that is not there, the answer is that it is not there. Requests
 * that come while the database is being asked for the same show share its answer.
 */
export function knownShow(pool: Pool): RequestParamHandler {
  const asking = new Map<string, Promise<boolean>>();
  const ask = (showId: string) => {
    const asked = pool
      .query('select 1 from show where id = $1', [showId])
      .then(({ rowCount }) => Boolean(rowCount))
      .finally(() => asking.delete(showId));
    asking.set(showId, asked);
    return asked;
  };
  return async (_request, _response, next, showId: string) => {
    if (!isKeepable(showId) || !(await (asking.get(showId) ?? ask(showId))))
      throw new Failure('SHOW_NOT_FOUND', { showId });
    next();
  };
}
