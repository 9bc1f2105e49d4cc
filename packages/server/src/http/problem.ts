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
export const problemHandler: ErrorRequestHandler = (error: unknown, request, response, next) => {
  if (response.headersSent) {
    next(error);
    return;
  }
  const failure = asFailure(error);
  if (failure instanceof Failure) sendProblem(response, failure.code, failure.facts);
  else if (statusOf(error) === 413) sendProblem(response, 'TOO_LARGE');
  else if (statusOf(error) === 400 || statusOf(error) === 415) sendProblem(response, 'NOT_JSON');
  else {
    request.log.error({ err: error }, 'unexpected');
    sendProblem(response, 'OWN_FAULT');
  }
};

const statusOf = (error: unknown): unknown =>
  typeof error === 'object' && error !== null && 'status' in error ? error.status : undefined;
