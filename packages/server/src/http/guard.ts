import type { RequestHandler } from 'express';
import type { IncomingMessage } from 'node:http';
import { sendProblem } from './problem.ts';

/** Names under which a loopback server may be opened. */
export const ownHosts = (port: number): ReadonlySet<string> =>
  new Set(['127.0.0.1', 'localhost', '[::1]'].map((host) => `${host}:${port}`));

const scheme = 'http://';

/** Refuses requests by another name (DNS rebinding) and from pages of other sites (cross-site posts and sockets). */
export const refusalFor = (
  request: IncomingMessage,
  own: ReadonlySet<string>,
): 'WRONG_HOST' | 'WRONG_ORIGIN' | undefined => {
  if (!own.has(request.headers.host ?? '')) return 'WRONG_HOST';
  const { origin } = request.headers;
  const crossSite =
    request.headers['sec-fetch-site'] === 'cross-site' && request.headers['sec-fetch-mode'] !== 'navigate';
  const isOwn = origin?.startsWith(scheme) === true && own.has(origin.slice(scheme.length));
  const foreign = origin !== undefined && !isOwn;
  return foreign || crossSite ? 'WRONG_ORIGIN' : undefined;
};

export const guard =
  (own: () => ReadonlySet<string>): RequestHandler =>
  (request, response, next) => {
    const refusal = refusalFor(request, own());
    if (refusal) sendProblem(response, refusal);
    else next();
  };
