import pg from 'pg';
import { Failure } from '../http/failure.ts';

export type Sql = pg.Pool | pg.PoolClient;

export function openPool(databaseUrl: string): pg.Pool {
  const pool = new pg.Pool({
    connectionString: databaseUrl,
    max: 10,
    connectionTimeoutMillis: 3_000,
    statement_timeout: 20_000,
    application_name: 'deep-patch',
  });
  // a database that goes away ends idle connections; the next query opens new ones
  pool.on('error', () => undefined);
  return pool;
}

type Level = 'read committed' | 'repeatable read';
const beginOf: Readonly<Record<Level, string>> = {
  'read committed': 'begin',
  'repeatable read': 'begin isolation level repeatable read read only',
};

/** Runs steps in one transaction: all of them or none. A lost database becomes one clear failure. */
export async function inTransaction<Result>(
  pool: pg.Pool,
  steps: (client: pg.PoolClient) => Promise<Result>,
  level: Level = 'read committed',
): Promise<Result> {
  let broken: Error | undefined;
  const client = await pool.connect().catch((cause: unknown) => {
    throw asFailure(cause);
  });
  // without a listener, a connection that dies between two queries would end the process
  const onError = (error: Error) => (broken = error);
  client.on('error', onError);
  try {
    await client.query(beginOf[level]);
    const result = await steps(client);
    await client.query('commit');
    return result;
  } catch (cause) {
    await client.query('rollback').catch((error: unknown) => (broken = error as Error));
    throw asFailure(cause);
  } finally {
    client.off('error', onError);
    client.release(broken);
  }
}

/** Turns what the driver throws into a row of the failure catalogue; anything else stays what it is. */
export function asFailure(cause: unknown): unknown {
  if (cause instanceof Failure || !(cause instanceof Error)) return cause;
  const code = 'code' in cause ? String(cause.code) : '';
  if (code === '23503')
    return new Failure('DANGLING', { detail: 'detail' in cause ? String(cause.detail) : '' }, { cause });
  if (code.startsWith('22') || code === '23514' || code === '23502') return new Failure('BROKEN_ROW', {}, { cause });
  const away = /^(08|57P|53)/.test(code) || /^E(CONN|PIPE|TIMEDOUT|HOST)/.test(code);
  const lost = /terminated|timeout exceeded|timeout expired|Connection ended|not queryable/i.test(cause.message);
  return away || lost ? new Failure('DATABASE_AWAY', {}, { cause }) : cause;
}
