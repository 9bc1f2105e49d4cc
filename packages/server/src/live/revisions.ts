import pg from 'pg';
import type { Logger } from 'pino';

const retryMs = 500;

/**
 * Listens for "show N is at revision R", or that it was deleted, from every server process on this database. `ready` when
 * it listens, or cannot yet. After a lost connection it comes back by itself and says so, since notifications sent
 * meanwhile are gone.
 */
export function watchRevisions(
  databaseUrl: string,
  on: {
    revision: (showId: string, rev: number) => void;
    gone: (showId: string) => void;
    away: () => void;
    back: () => void;
  },
  log: Logger,
): { stop: () => Promise<void>; isAway: () => boolean; ready: Promise<void> } {
  let client: pg.Client | undefined;
  let stopped = false;
  let timer: NodeJS.Timeout | undefined;
  let wasAway = false;

  function lost(gone: pg.Client): void {
    if (client !== gone || stopped) return;
    client = undefined;
    gone.end().catch(() => undefined);
    if (!wasAway) {
      wasAway = true;
      log.warn('database away');
      on.away();
    }
    timer = setTimeout(() => void connect(), retryMs);
  }

  async function connect(): Promise<void> {
    const fresh = new pg.Client({ connectionString: databaseUrl, connectionTimeoutMillis: 3_000, keepAlive: true });
    client = fresh;
    fresh.on('error', () => lost(fresh));
    fresh.on('end', () => lost(fresh));
    fresh.on('notification', ({ payload }) => {
      const [showId = '', rev] = (payload ?? '').split(' ');
      if (rev === 'gone') on.gone(showId);
      else on.revision(showId, Number(rev));
    });
    try {
      await fresh.connect();
      await fresh.query('listen show');
      if (wasAway) {
        wasAway = false;
        log.info('database back');
        on.back();
      }
    } catch {
      lost(fresh);
    }
  }

  const ready = connect();
  return {
    ready,
    isAway: () => wasAway,
    stop: async () => {
      stopped = true;
      clearTimeout(timer);
      await client?.end().catch(() => undefined);
    },
  };
}
