import pg from 'pg';
import { Failure } from '../http/failure.ts';

export type Sql = pg.Pool | pg.PoolClient;

/** More than that wait for a connection only when something is wrong: they are refused, so that memory does not grow. */
const mostWaiting = 200;

type Connected = (error: Error | undefined, client: pg.PoolClient | undefined, release: () => void) => void;

/** Refuses whoever comes when too many wait already; `query` of the base asks for its connections here too. */
class BoundedPool extends pg.Pool {
  override connect(): Promise<pg.PoolClient>;
  override connect(callback: Connected): void;
  override connect(callback?: Connected): Promise<pg.PoolClient> | void {
    const isBusy = this.waitingCount >= mostWaiting;
    if (!callback) return isBusy ? Promise.reject(new Failure('DATABASE_BUSY')) : super.connect();
    if (isBusy) callback(new Failure('DATABASE_BUSY'), undefined, () => undefined);
    else super.connect(callback);
  }
}

/**
 * Every wait has an end: for a connection, for a lock, for a statement (which the database ends itself), and for an
 * answer (should the database be gone without a word). A transaction that is left alone is rolled back.
 */
export function openPool(databaseUrl: string): pg.Pool {
  const pool = new BoundedPool({
    connectionString: databaseUrl,
    max: 10,
    connectionTimeoutMillis: 3_000,
    lock_timeout: 10_000,
    statement_timeout: 20_000,
    query_timeout: 25_000,
    idle_in_transaction_session_timeout: 30_000,
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
  if (code === '53100') return new Failure('DISK_FULL', {}, { cause });
  // 55P03: a lock was not free in time; 57014: the statement took too long
  if (code === '55P03' || code === '57014') return new Failure('DATABASE_BUSY', {}, { cause });
  // what is fatal ends the connection, whatever else it says
  const isFatal = cause instanceof pg.DatabaseError && /FATAL|PANIC/.test(cause.severity ?? '');
  const away = isFatal || /^(08|57P|53|58)/.test(code) || /^E(CONN|PIPE|TIMEDOUT|HOST)/.test(code);
  const lost = /terminated|timeout exceeded|timeout expired|read timeout|Connection ended|not queryable/i.test(
    cause.message,
  );
  return away || lost ? new Failure('DATABASE_AWAY', {}, { cause }) : cause;
}
