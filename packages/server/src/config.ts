import { readFileSync } from 'node:fs';
import { homedir } from 'node:os';
import { join } from 'node:path';

export interface Config {
  readonly port: number;
  readonly host: string;
  readonly databaseUrl: string;
  readonly dataDir: string;
  readonly webDist: string;
  readonly benchEntry: string;
  /** Seconds that pass on the bench in one second. */
  readonly benchSpeed: number;
  /** The thread that reads large changes. */
  readonly readerEntry: string;
  readonly logLevel: string;
  /** Passwords whose key was lost may be forgotten. */
  readonly newKey: boolean;
}

/** Beyond it a busy machine lets what comes from outside arrive too late. */
const fastestBench = 50;
const loopback = new Set(['127.0.0.1', 'localhost', '::1']);

/** Reads environment and arguments; throws one sentence for the first setting that cannot work. */
export function readConfig(env: NodeJS.ProcessEnv, args: readonly string[], here: string): Config {
  const port = Number(env['PORT'] ?? 7300);
  const host = env['HOST'] ?? '127.0.0.1';
  const databaseUrl = withPassword(env['DATABASE_URL'] ?? '', env['DATABASE_PASSWORD_FILE']);
  if (!Number.isInteger(port) || port < 0 || port > 65_535)
    throw new Error(`PORT is ${env['PORT']}: use a whole number from 1 to 65535.`);
  const benchSpeed = Number(env['BENCH_SPEED'] ?? 1);
  if (!(benchSpeed >= 1 && benchSpeed <= fastestBench))
    throw new Error(`BENCH_SPEED is ${env['BENCH_SPEED']}: use a number from 1 to ${fastestBench}.`);
  if (!loopback.has(host))
    throw new Error(`HOST is ${host}: Deep Patch serves 127.0.0.1 only until accounts exist. Leave HOST out.`);
  const unknown = args.find((argument) => argument !== '--new-key');
  if (unknown !== undefined) throw new Error(`${unknown} is no option: there is --new-key only.`);
  if (!databaseUrl) throw new Error('DATABASE_URL is missing: start with "npm start", which makes a database.');
  return {
    port,
    host,
    databaseUrl,
    dataDir: env['DEEP_PATCH_DATA'] ?? join(homedir(), '.local/share/deep-patch'),
    webDist: env['WEB_DIST'] ?? join(here, '../../web/dist'),
    benchEntry: env['BENCH_ENTRY'] ?? join(here, 'bench.js'),
    benchSpeed,
    readerEntry: env['READER_ENTRY'] ?? join(here, 'reader.js'),
    logLevel: env['LOG_LEVEL'] ?? 'info',
    newKey: args.includes('--new-key'),
  };
}

/** The password stands in a file: an environment can be read by others, and is handed on. */
function withPassword(databaseUrl: string, file: string | undefined): string {
  if (file === undefined || !URL.canParse(databaseUrl)) return databaseUrl;
  const url = new URL(databaseUrl);
  url.password = readFileSync(file, 'utf8').trim();
  return url.href;
}
