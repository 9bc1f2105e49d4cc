import { homedir } from 'node:os';
import { join } from 'node:path';

export interface Config {
  readonly port: number;
  readonly host: string;
  readonly databaseUrl: string;
  readonly dataDir: string;
  readonly webDist: string;
  readonly benchEntry: string;
  readonly logLevel: string;
}

const loopback = new Set(['127.0.0.1', 'localhost', '::1']);

/** Reads the environment; throws one sentence for the first setting that cannot work. */
export function readConfig(env: NodeJS.ProcessEnv, here: string): Config {
  const port = Number(env['PORT'] ?? 7300);
  const host = env['HOST'] ?? '127.0.0.1';
  const databaseUrl = env['DATABASE_URL'] ?? '';
  if (!Number.isInteger(port) || port < 0 || port > 65_535)
    throw new Error(`PORT is ${env['PORT']}: use a whole number from 1 to 65535.`);
  if (!loopback.has(host))
    throw new Error(`HOST is ${host}: Deep Patch serves 127.0.0.1 only until accounts exist. Leave HOST out.`);
  if (!databaseUrl) throw new Error('DATABASE_URL is missing: start with "npm start", which makes a database.');
  return {
    port,
    host,
    databaseUrl,
    dataDir: env['DEEP_PATCH_DATA'] ?? join(homedir(), '.local/share/deep-patch'),
    webDist: env['WEB_DIST'] ?? join(here, '../../web/dist'),
    benchEntry: env['BENCH_ENTRY'] ?? join(here, 'bench.js'),
    logLevel: env['LOG_LEVEL'] ?? 'info',
  };
}
