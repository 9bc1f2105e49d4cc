import type { ErrorRequestHandler, Response } from 'express';
import { asFailure } from '../db/pool.ts';
import { Failure, failures, type FailureCode } from './failure.ts';

/** A problem document (RFC 9457) with the stable `code` and every fact of the failure. */
export function sendProblem(
  response: Response,
  code: FailureCode,
  facts: Readonly<Record<string, unknown>> = {},
): void {
  const { status, title, todo } = failures[code];
  if (status === 503) response.setHeader('retry-after', '3');
  response.status(status).type('application/problem+json');
  response.send(JSON.stringify({ type: `/api/openapi.json#${code}`, title, status, code, detail: todo, ...facts }));
}

/** The last handler: failures of the catalogue as they are, faults of the body parser by their status, else our own. */
export const problemHandler =
  (isDiskFull: () => boolean): ErrorRequestHandler =>
  (error: unknown, request, response, next) => {
    if (response.headersSent) {
      next(error);
      return;
    }
    const refused = refusedBy(error);
    const failure = asFailure(error);
    if (refused) sendProblem(response, refused);
    else if (failure instanceof Failure) {
      // a disk without room ends the database, which then only does not answer
      const code = failure.code === 'DATABASE_AWAY' && isDiskFull() ? 'DISK_FULL' : failure.code;
      sendProblem(response, code, failure.facts);
    } else {
      request.log.error({ err: error }, 'unexpected');
      sendProblem(response, 'OWN_FAULT');
    }
  };

/** What the body parser, the router and the files of the browser refuse by themselves, before the database is asked. */
function refusedBy(error: unknown): FailureCode | undefined {
  if (typeof error !== 'object' || error === null || !('status' in error)) return undefined;
  const status = Number(error.status);
  if (status === 413) return 'TOO_LARGE';
  // only the body parser says of what type a fault is; the rest is about the address
  if (status === 400 || status === 415) return 'type' in error ? 'NOT_JSON' : 'NO_ROUTE';
  return status === 404 ? 'NO_ROUTE' : undefined;
}
