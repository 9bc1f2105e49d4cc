import { createServer, type Server } from 'node:http';
import { rm } from 'node:fs/promises';
import type { AddressInfo } from 'node:net';
import { join } from 'node:path';
import type { Pool } from 'pg';
import type { Logger } from 'pino';
import { BenchRoom } from './bench/bench-room.ts';
import type { Config } from './config.ts';
import { isDiskFull } from './db/disk.ts';
import { openKey } from './db/key.ts';
import { migrate } from './db/migrate.ts';
import { openPool } from './db/pool.ts';
import { makeApp } from './http/app.ts';
import { ownHosts } from './http/guard.ts';
import { BenchProcess } from './live/bench-process.ts';
import { Hub } from './live/hub.ts';
import { ChangeReader } from './shows/change-reader.ts';
import { loadDemo } from './shows/load-demo.ts';
import { watchRevisions } from './live/revisions.ts';

export interface Running {
  readonly url: string;
  readonly port: number;
  readonly hub: Hub;
  readonly bench: BenchProcess;
  readonly room: BenchRoom;
  readonly stop: () => Promise<void>;
}

/** Composes the server: database, bench, live topics, HTTP. Resolves when it answers. */
export async function serve(config: Config, log: Logger, migrations: string): Promise<Running> {
  // what was on its way when the last server ended
  await rm(join(config.dataDir, 'arriving'), { recursive: true, force: true });
  const pool = openPool(config.databaseUrl);
  const key = await prepare(pool, config, migrations, log).catch(async (error: unknown) => {
    await pool.end();
    throw error;
  });
  const hub = new Hub();
  const bench = new BenchProcess(config.benchEntry, config.benchSpeed, log, {
    death: () => room.forget(),
    event: (event) => {
      room.heed(event).catch((error: unknown) => log.warn({ err: error }, 'news of the bench lost'));
    },
  });
  const isFull = () => isDiskFull(config.dataDir);
  const tellDatabase = (away: boolean, tell: Hub['tell'] = (message) => hub.tell(message)) =>
    tell({ topic: 'database', away, full: away && isFull() });
  const room: BenchRoom = new BenchRoom({ pool, key, bench, hub });
  const watch = watchRevisions(
    config.databaseUrl,
    {
      revision: (showId, rev) => {
        hub.tell({ topic: 'revision', showId, rev });
        room.follow(showId).catch((error: unknown) => log.warn({ err: error }, 'bench does not follow'));
      },
      gone: (showId) => {
        hub.tell({ topic: 'gone', showId });
        room.drop(showId).catch((error: unknown) => log.warn({ err: error }, 'bench keeps a deleted show'));
      },
      away: () => tellDatabase(true),
      back: () => tellDatabase(false),
    },
    log,
  );
  const unload = setInterval(() => {
    room.unloadUnused().catch((error: unknown) => log.warn({ err: error }, 'an unused bench stays'));
  }, 60_000).unref();
  hub.onJoin = (showId, tell) => {
    tellDatabase(watch.isAway(), tell);
    room.welcome(showId, tell).catch((error: unknown) => log.warn({ err: error }, 'bench is silent'));
  };
  let own = ownHosts(config.port);
  const tellSeen = (showId: string) => hub.tell({ topic: 'seen', showId });
  const { webDist, dataDir } = config;
  const reader = new ChangeReader(config.readerEntry);
  const parts = { pool, key, reader, log, room, own: () => own, webDist, dataDir, tellSeen, isDiskFull: isFull };
  const server = createServer(makeApp(parts));
  // longer than anybody pauses between two requests: one that comes just as its connection is closed is lost
  server.keepAliveTimeout = 65_000;
  hub.attach(server, () => own);
  // a tab that joins is told everything from then on: whoever answers has to hear it
  await watch.ready;
  await listen(server, config);
  const { port } = server.address() as AddressInfo;
  own = ownHosts(port);
  return {
    url: `http://127.0.0.1:${port}`,
    port,
    hub,
    bench,
    room,
    stop: () => {
      clearInterval(unload);
      return stop({ server, hub, bench, watch, reader, pool });
    },
  };
}

/** Migrates, opens the key of the passwords, and loads the demo where no show exists yet. */
async function prepare(pool: Pool, config: Config, migrations: string, log: Logger): Promise<Buffer> {
  const client = await pool.connect();
  try {
    const applied = await migrate(client, migrations);
    if (applied.length > 0) log.info({ applied }, 'database migrated');
  } finally {
    client.release();
  }
  const key = await openKey(pool, config.dataDir, config.newKey);
  const { rows } = await pool.query<{ shows: number }>('select count(*)::integer as shows from show');
  if (rows[0]?.shows === 0) await loadDemo(pool, key);
  return key;
}

function listen(server: Server, { port, host }: Config): Promise<void> {
  return new Promise((done, refuse) => {
    server.once('error', (error: NodeJS.ErrnoException) =>
      refuse(
        error.code === 'EADDRINUSE'
          ? new Error(
              `Port ${port} is in use, perhaps by another Deep Patch: open http://127.0.0.1:${port} or start with PORT=7301.`,
            )
          : error,
      ),
    );
    server.listen(port, host, done);
  });
}

async function stop({
  server,
  hub,
  bench,
  watch,
  reader,
  pool,
}: {
  server: Server;
  hub: Hub;
  bench: BenchProcess;
  watch: { stop: () => Promise<void> };
  reader: ChangeReader;
  pool: Pool;
}): Promise<void> {
  hub.close();
  bench.stop();
  reader.stop();
  const closed = new Promise<void>((done) => server.close(() => done()));
  server.closeIdleConnections();
  const grace = setTimeout(() => server.closeAllConnections(), 3_000);
  await closed;
  clearTimeout(grace);
  await watch.stop();
  await pool.end();
}
