import { join } from 'node:path';
import { show as core } from '@deep-patch/core';
import express, { type Express, type RequestHandler } from 'express';
import helmet from 'helmet';
import type { Pool } from 'pg';
import type { Logger } from 'pino';
import { pinoHttp } from 'pino-http';
import type { BenchRoom } from '../bench/bench-room.ts';
import { benchRoutes } from '../bench/routes.ts';
import { bringUpRoutes } from '../bringup/routes.ts';
import { foundRoutes } from '../found/routes.ts';
import { paperRoutes } from '../papers/routes.ts';
import type { ChangeReader } from '../shows/change-reader.ts';
import { copyRoutes } from '../shows/copy-routes.ts';
import { showRoutes } from '../shows/routes.ts';
import { guard } from './guard.ts';
import { health } from './health.ts';
import { openApi } from './openapi.ts';
import { problemHandler, sendProblem } from './problem.ts';

export interface AppParts {
  readonly pool: Pool;
  readonly key: Buffer;
  readonly reader: ChangeReader;
  readonly log: Logger;
  readonly room: BenchRoom;
  readonly own: () => ReadonlySet<string>;
  readonly webDist: string;
  readonly dataDir: string;
  readonly tellSeen: (showId: string) => void;
  readonly isDiskFull: () => boolean;
}

const policy = {
  'default-src': ["'self'"],
  'script-src': ["'self'"],
  'style-src': ["'self'"],
  'worker-src': ["'self'"],
  'connect-src': ["'self'"],
  'font-src': ["'self'"],
  'img-src': ["'self'", 'data:', 'blob:'],
  'object-src': ["'none'"],
  'frame-ancestors': ["'none'"],
  'base-uri': ["'none'"],
  'form-action': ["'self'"],
  'upgrade-insecure-requests': null,
};

/** The worker that reads headers of media runs a compiled library, which its own policy allows; no page has that. */
const compiledWorker = /^\/read-media\.worker-[\w-]+\.js$/;
const compiledPolicy = { ...policy, 'script-src': ["'self'", "'wasm-unsafe-eval'"] };

const compiled = helmet.contentSecurityPolicy({ useDefaults: false, directives: compiledPolicy });
const allowCompiled: RequestHandler = (request, response, next) => {
  if (compiledWorker.test(request.path)) compiled(request, response, next);
  else next();
};

/** The HTTP side without a port: tests call it as it is. */
export function makeApp({
  pool,
  key,
  reader,
  log,
  room,
  own,
  webDist,
  dataDir,
  tellSeen,
  isDiskFull,
}: AppParts): Express {
  const app = express();
  app.disable('x-powered-by');
  app.use(
    pinoHttp({
      logger: log,
      serializers: {
        req: ({ id, method, url }: { id: unknown; method: string; url: string }) => ({ id, method, url }),
        res: ({ statusCode }: { statusCode: number }) => ({ statusCode }),
      },
    }),
  );
  app.use(guard(own));
  app.use(
    helmet({ contentSecurityPolicy: { useDefaults: false, directives: policy }, strictTransportSecurity: false }),
  );
  app.get('/api/health', health(pool));
  app.get('/api/openapi.json', (_request, response) => void response.json(openApi()));
  app.use('/api/shows', copyRoutes(pool, key));
  app.use('/api/shows', showRoutes(pool, key, reader));
  app.use('/api/shows', foundRoutes(pool, tellSeen));
  app.use('/api/shows', bringUpRoutes(pool));
  app.use('/api/shows', paperRoutes(pool, join(dataDir, 'arriving')));
  app.get('/api/schemas/device-types.json', (_request, response) => void response.json(core.typeFileJsonSchema()));
  app.get('/api/schemas/show.json', (_request, response) => void response.json(core.showFileJsonSchema()));
  app.use('/api/bench', benchRoutes(pool, room));
  app.use('/api', (_request, response) => sendProblem(response, 'NO_ROUTE'));
  app.use(
    '/assets',
    allowCompiled,
    express.static(join(webDist, 'assets'), { immutable: true, maxAge: '1y', fallthrough: false }),
  );
  app.use(express.static(webDist, { index: false, maxAge: 0 }));
  app.get('/{*path}', (_request, response) => response.sendFile('index.html', { root: webDist }));
  app.use((_request, response) => sendProblem(response, 'NO_ROUTE'));
  app.use(problemHandler(isDiskFull));
  return app;
}
