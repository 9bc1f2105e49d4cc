import type { RequestHandler } from 'express';
import type { Pool } from 'pg';
import { Failure } from './failure.ts';

const answerWithinMs = 900;

/** Says within a second whether the database answers; however often that is asked, one question at a time is under way. */
export function health(pool: Pool): RequestHandler {
  let asking: Promise<unknown> | undefined;
  const ask = () =>
    (asking ??= pool.query('select 1').finally(() => {
      asking = undefined;
    }));
  return async (_request, response) => {
    let timer: NodeJS.Timeout | undefined;
    const late = new Promise<never>((_done, refuse) => {
      timer = setTimeout(() => refuse(new Failure('DATABASE_AWAY')), answerWithinMs);
    });
    try {
      await Promise.race([ask(), late]);
    } finally {
      clearTimeout(timer);
    }
    response.json({ ok: true, product: 'deep-patch' });
  };
}
