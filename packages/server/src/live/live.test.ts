import { createSocket } from 'node:dgram';
import { once } from 'node:events';
import { mkdtempSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { setTimeout as wait } from 'node:timers/promises';
import { type contract, rig, type Show } from '@deep-patch/core';
import pg from 'pg';
import { afterAll, beforeAll, describe, expect, test, vi } from 'vitest';
import WebSocket from 'ws';
import { FAST, startPostgres, stopPostgres } from '../../../../scripts/pg.mjs';
import { patience, startServer, type TestServer } from '../../test/running.ts';
import { migrate } from '../db/migrate.ts';
import { Hub } from './hub.ts';

let server: TestServer;
beforeAll(async () => {
  server = await startServer();
});
afterAll(() => server.stop());

let counter = 0;
const demo = '/shows/harbour-finals';
const rename = async (on: TestServer, name: string) => {
  const show = (await on.call('GET', demo)).body as unknown as Show;
  const device = show.devices['desk'];
  if (!device) throw new Error('no desk');
  return on.call('POST', `${demo}/changes`, {
    id: `live-${(counter += 1)}-${Date.now()}`,
    author: 'author-live-1',
    change: rig.planEditDevice(show, device, { name }),
  });
};

describe('live topics', () => {
  test('another tab, even at another server process, hears of a change', async () => {
    const other = await startServer(server.databaseUrl, server.dataDir);
    const tab = await other.socket('harbour-finals');
    await tab.until(({ topic }) => topic === 'presence');
    const { body } = await rename(server, 'Lighting desk, main');
    const told = await tab.until((message) => message.topic === 'revision' && message.rev === body['rev']);
    expect(told).toMatchObject({ showId: 'harbour-finals' });
    tab.socket.close();
    await other.stop();
  });

  test('a tab is told that it has joined before anything else', async () => {
    const tab = await server.socket('harbour-finals');
    await tab.until(({ topic }) => topic === 'presence');
    expect(tab.messages[0]).toEqual({ topic: 'joined', showId: 'harbour-finals' });
    tab.socket.close();
  });

  test('who joins is told what the bench shows; who is there already is not told again', async () => {
    await server.call('GET', '/bench/harbour-finals');
    const [one, other] = [await server.socket('harbour-finals'), await server.socket('harbour-finals')];
    await one.until(({ topic }) => topic === 'bench');
    await other.until(({ topic }) => topic === 'bench');
    await one.until((message) => message.topic === 'presence' && message.here === 2);
    // nothing is switched on: whatever comes, comes with a joining
    const before = one.messages.length;
    const late = await server.socket('harbour-finals');
    await late.until(({ topic }) => topic === 'bench');
    await new Promise<void>((done) => {
      one.socket.once('pong', () => done());
      one.socket.ping();
    });
    expect(one.messages.slice(before).map(({ topic }) => topic)).toEqual(['presence']);
    for (const { socket } of [one, other, late]) socket.close();
  });

  test('who joins right after an outside tool spoke finds its lines in the tap', async () => {
    const path = '/bench/harbour-finals';
    await server.call('GET', path);
    await server.call('POST', `${path}/power`, { deviceIds: ['desk'], on: true });
    const opened = await server.call('POST', `${path}/jacks`, { deviceId: 'desk', serviceKey: 'osc', replyTo: null });
    const [jack] = (opened.body as unknown as contract.BenchState).jacks;
    const tool = createSocket('udp4').bind(0, '127.0.0.1');
    await once(tool, 'listening');
    const answered = once(tool, 'message');
    // "/desk/cue/12/stop" with its type tag, padded to whole words
    tool.send(Buffer.from('/desk/cue/12/stop\0\0\0,\0\0\0', 'latin1'), jack?.port, '127.0.0.1');
    await answered;
    tool.close();
    const tab = await server.socket('harbour-finals');
    await tab.until(({ topic }) => topic === 'bench');
    expect(tab.states()[0]?.heard.some(({ from }) => from === 'outside tool')).toBe(true);
    tab.socket.close();
    await server.call('DELETE', `${path}/jacks/${jack?.port}`);
    await server.call('POST', `${path}/power`, { deviceIds: ['desk'], on: false });
  });

  test('a tab is told the whole state once, then only what is new, and has at any time what the bench shows', async () => {
    const path = '/bench/harbour-finals';
    await server.call('GET', path);
    const tab = await server.socket('harbour-finals');
    const whole = await tab.until(({ topic }) => topic === 'bench');
    let last: unknown;
    for (const on of [true, false, true, false])
      last = (await server.call('POST', `${path}/power`, { deviceIds: ['host', 'desk', 'panel'], on })).body;
    await vi.waitUntil(() => tab.states().some(({ seq }) => seq === (last as contract.BenchState).seq), {
      timeout: patience,
    });
    expect(tab.states().find(({ seq }) => seq === (last as contract.BenchState).seq)).toEqual(last);
    const news = tab.messages.filter(({ topic }) => topic === 'bench-news');
    expect(tab.messages.filter(({ topic }) => topic === 'bench')).toHaveLength(1);
    expect(Math.max(...news.map((message) => JSON.stringify(message).length))).toBeLessThan(
      JSON.stringify(whole).length / 3,
    );
    tab.socket.close();
  });

  test('a show that nobody looks at leaves the bench after a while, and is there again when somebody does', async () => {
    const id = String((await server.call('POST', '/shows', { name: 'Left alone' })).body['id']);
    await server.call('GET', `/bench/${id}`);
    const isLoaded = () =>
      server.bench.ask({ kind: 'state', showId: id }).then(
        () => true,
        () => false,
      );
    const later = Date.now() + 16 * 60_000;
    const tab = await server.socket(id);
    await tab.until(({ topic }) => topic === 'bench');
    await server.room.unloadUnused(later);
    expect(await isLoaded()).toBe(true);
    tab.socket.close();
    await vi.waitUntil(() => server.hub.here(id) === 0, { timeout: patience });
    await server.room.unloadUnused();
    expect(await isLoaded()).toBe(true);
    await server.room.unloadUnused(later);
    expect(await isLoaded()).toBe(false);
    expect((await server.call('GET', `/bench/${id}`)).status).toBe(200);
  });

  test('a show that is deleted is gone from the bench at once, and its tabs are told', async () => {
    const made = await server.call('POST', '/shows', { name: 'For a day' });
    const id = String(made.body['id']);
    expect((await server.call('GET', `/bench/${id}`)).status).toBe(200);
    const tab = await server.socket(id);
    await tab.until(({ topic }) => topic === 'bench');
    expect((await server.call('DELETE', `/shows/${id}`)).status).toBe(204);
    expect(await tab.until(({ topic }) => topic === 'gone')).toEqual({ topic: 'gone', showId: id });
    expect((await server.call('GET', `/bench/${id}`)).body.code).toBe('SHOW_NOT_FOUND');
    await expect(server.bench.ask({ kind: 'state', showId: id })).rejects.toMatchObject({
      facts: { reason: 'not loaded' },
    });
    tab.socket.close();
  });

  test('presence counts tabs of the show and falls when one goes', async () => {
    const [one, two] = [await server.socket('harbour-finals'), await server.socket('harbour-finals')];
    await one.until((message) => message.topic === 'presence' && message.here === 2);
    one.messages.length = 0;
    two.socket.close();
    await one.until((message) => message.topic === 'presence' && message.here === 1);
    one.socket.close();
  });

  test('a tab that leaves more unread than is kept for it is dropped, and the others are told on', async () => {
    const hub = new Hub();
    const { createServer } = await import('node:http');
    const http = createServer();
    hub.attach(http, () => new Set([`127.0.0.1:${(http.address() as { port: number }).port}`]));
    await new Promise<void>((done) => http.listen(0, '127.0.0.1', done));
    const open = async () => {
      const socket = new WebSocket(`ws://127.0.0.1:${(http.address() as { port: number }).port}/api/live`);
      await new Promise((done) => socket.once('open', done));
      socket.send(JSON.stringify({ topic: 'join', showId: 's' }));
      return socket;
    };
    const [reads, sleeps] = [await open(), await open()];
    await vi.waitFor(() => expect(hub.here('s')).toBe(2), { timeout: patience });
    sleeps.pause();
    let heard = 0;
    reads.on('message', () => (heard += 1));
    const news = { showId: 's', lines: [], perSecond: 0, addresses: 0, lamps: { in: ['x'.repeat(1 << 20)], out: [] } };
    // bounded: what the system itself buffers is a few megabytes
    for (let told = 0; told < 60 && hub.here('s') === 2; told += 1) {
      const before = heard;
      hub.tell({ topic: 'tap', showId: 's', news });
      await vi.waitFor(() => expect(heard).toBeGreaterThan(before), { timeout: patience });
    }
    expect([hub.here('s'), reads.readyState]).toEqual([1, WebSocket.OPEN]);
    hub.close();
    http.close();
  });

  test('a tab that no longer answers is dropped, one that answers stays', async () => {
    const hub = new Hub(1500); // longer than a busy machine makes a living tab wait
    const { createServer } = await import('node:http');
    const http = createServer();
    hub.attach(http, () => new Set([`127.0.0.1:${(http.address() as { port: number }).port}`]));
    await new Promise<void>((done) => http.listen(0, '127.0.0.1', done));
    const url = `ws://127.0.0.1:${(http.address() as { port: number }).port}/api/live`;
    const open = async (autoPong: boolean) => {
      const socket = new WebSocket(url, { autoPong });
      await new Promise((done) => socket.once('open', done));
      socket.send(JSON.stringify({ topic: 'join', showId: 's' }));
      return socket;
    };
    const [alive, dead] = [await open(true), await open(false)];
    await new Promise((done) => dead.once('close', done));
    await vi.waitFor(() => expect([hub.here('s'), alive.readyState]).toEqual([1, WebSocket.OPEN]), {
      timeout: patience,
    });
    for (const nonsense of ['', '{', '{"topic":"x"}', '[]', JSON.stringify({ topic: 'join', showId: 5 })])
      alive.send(nonsense);
    await wait(250);
    expect(hub.here('s')).toBe(1);
    hub.close();
    http.close();
  });

  test('a socket from another origin is refused', async () => {
    const socket = new WebSocket(`ws://127.0.0.1:${server.port}/api/live`, { origin: 'http://evil.example' });
    const error = await new Promise<Error>((done) => socket.once('error', done));
    expect(error.message).toContain('403');
  });
});

describe('failures of what stands below', () => {
  test('a plan that moves while links are sounded pulls no cable out', async () => {
    const show = (await server.call('GET', demo)).body as unknown as Show;
    await server.call('POST', '/bench/harbour-finals/power', { deviceIds: Object.keys(show.devices), on: true });
    // over wireless it takes long enough for many changes to come in between
    for (let round = 0; round < 3; round += 1) {
      const sounding = server.call('POST', '/bench/harbour-finals/sound', { linkId: 'remote-to-camera-4' });
      let done = false;
      void sounding.then(() => (done = true));
      for (let at = 0; !done; at += 1) {
        await rename(server, `Lighting desk ${at % 7}`);
        await wait(15);
      }
      const layers = (await sounding).body['layers'] as { layer: string; state: string }[];
      expect(layers.filter(({ state }) => state !== 'pass')).toEqual([]);
    }
  });

  test('the bench killed: a clear problem or a fresh bench, the plan untouched', async () => {
    const tab = await server.socket('harbour-finals');
    await server.call('GET', '/bench/harbour-finals');
    const before = (await server.call('GET', demo)).body;
    const pid = server.bench.pid;
    if (pid === undefined) throw new Error('no bench');
    process.kill(pid, 'SIGKILL');
    await tab.until((message) => message.topic === 'bench' && message.state === null);
    let state = await server.call('GET', '/bench/harbour-finals');
    for (let tries = 0; tries < 20 && state.status !== 200; tries += 1) {
      expect(state.body.code).toBe('BENCH_AWAY');
      await wait(150);
      state = await server.call('GET', '/bench/harbour-finals');
    }
    expect(state.status).toBe(200);
    expect(server.bench.pid).not.toBe(pid);
    expect((await server.call('GET', demo)).body).toEqual(before);
    tab.socket.close();
  });

  test(
    'the database stopped for ten seconds: clear problems meanwhile, then work goes on by itself and nothing is half-saved',
    { timeout: 240_000 },
    async () => {
      const dir = mkdtempSync(join(tmpdir(), 'deep-patch-away-'));
      const { secretUrl, port } = await startPostgres(dir, { settings: FAST });
      const own = await startServer(secretUrl);
      const tab = await own.socket('harbour-finals');
      await rename(own, 'Before');
      const before = (await own.call('GET', demo)).body as unknown as Show;
      stopPostgres(dir);
      const stoppedAt = performance.now();
      await tab.until((message) => message.topic === 'database' && message.away);
      const change = {
        label: 'Two rows',
        edits: ['one', 'two'].map((id) => ({
          table: 'devices',
          id,
          base: 0,
          before: null,
          after: { id, typeId: 'tablet', name: id, unit: null, place: '', firmware: null, note: '' },
        })),
      };
      const body = { id: 'change-while-away', author: 'author-live-1', change };
      const codes = new Set<string>();
      while (performance.now() - stoppedAt < 10_000) {
        const answers = await Promise.all([
          own.call('POST', `${demo}/changes`, body),
          own.call('GET', demo),
          own.call('GET', '/health'),
        ]);
        for (const { status, type, body: problem } of answers)
          codes.add(`${status} ${problem.code} ${type.split(';')[0]}`);
        await wait(700);
      }
      expect([...codes]).toEqual(['503 DATABASE_AWAY application/problem+json']);
      tab.messages.length = 0;
      await startPostgres(dir, { settings: FAST, port });
      await tab.until((message) => message.topic === 'database' && !message.away);
      expect((await own.call('GET', demo)).body).toEqual(before);
      expect((await own.call('POST', `${demo}/changes`, body)).status).toBe(201);
      const { body: told } = await rename(own, 'After');
      await tab.until((message) => message.topic === 'revision' && message.rev === told['rev']);
      expect(told['rev']).toBe(before.rev + 2);
      tab.socket.close();
      await own.stop();
      stopPostgres(dir, { remove: true });
    },
  );

  describe('what holds the database up', () => {
    /** Runs while somebody else holds what `statement` takes; `held` says for how many questions the database has no answer. */
    async function whileHeld(
      statement: string,
      steps: (own: TestServer, held: (count: number) => Promise<void>) => Promise<Promise<string>[]>,
    ): Promise<Set<string>> {
      const own = await startServer();
      const [holder, watcher] = [1, 2].map(() => new pg.Client({ connectionString: own.databaseUrl }));
      if (!holder || !watcher) throw new Error('two clients');
      await Promise.all([holder.connect(), watcher.connect()]);
      await holder.query('begin');
      await holder.query(statement);
      const waiting = `select 1 from pg_stat_activity where datname = current_database() and wait_event_type = 'Lock'`;
      const asked = await steps(own, async (count) => {
        await vi.waitUntil(async () => (await watcher.query(waiting)).rowCount === count, { timeout: patience });
      });
      await holder.query('rollback');
      await Promise.all([holder.end(), watcher.end()]);
      const codes = new Set(await Promise.all(asked));
      expect((await own.call('GET', '/health')).status).toBe(200);
      await own.stop();
      return codes;
    }
    const answerOf = async (own: TestServer, ...call: Parameters<TestServer['call']>) => {
      const { status, body } = await own.call(...call);
      return `${status} ${body.code}`;
    };

    test('all of it: health says so at once, too many are refused, and what waited is done', async () => {
      const codes = await whileHeld('lock table show', async (own, held) => {
        const send = (count: number) =>
          Array.from({ length: count }, (_, at) => answerOf(own, 'GET', `/shows/none-${count}-${at}`));
        const first = send(30);
        await held(10);
        expect(await answerOf(own, 'GET', '/health')).toBe('503 DATABASE_AWAY');
        const more = send(300);
        expect(await Promise.race(more)).toBe('503 DATABASE_BUSY');
        return [...first, ...more];
      });
      // who waited long for a connection, on a busy machine, is told that the database does not answer
      codes.delete('503 DATABASE_AWAY');
      expect([...codes].sort()).toEqual(['404 SHOW_NOT_FOUND', '503 DATABASE_BUSY']);
    });

    test('in one show: its changes wait in a bounded line, and everything else goes on', async () => {
      const codes = await whileHeld('select 1 from show for update', async (own, held) => {
        const asked = Array.from({ length: 250 }, (_, at) =>
          answerOf(own, 'POST', `${demo}/undo`, { id: `held-${at}`, author: 'author-held-1' }),
        );
        await held(1);
        expect(await Promise.race(asked)).toBe('503 DATABASE_BUSY');
        expect((await own.call('GET', '/health')).status).toBe(200);
        expect((await own.call('GET', demo)).status).toBe(200);
        return asked;
      });
      expect([...codes].sort()).toEqual(['409 NOTHING_TO_UNDO', '503 DATABASE_BUSY']);
    });
  });

  test('migrations run once, side by side too, and a changed file is refused', async () => {
    const dir = join(import.meta.dirname, '../../migrations');
    const clients = await Promise.all(
      [1, 2].map(async () => {
        const client = new pg.Client({ connectionString: server.databaseUrl });
        await client.connect();
        return client;
      }),
    );
    expect(await Promise.all(clients.map((client) => migrate(client, dir)))).toEqual([[], []]);
    await clients[0]?.query(`update schema_migration set sha256 = 'x'`);
    await expect(clients[0] && migrate(clients[0], dir)).rejects.toThrow('was changed after it was applied');
    await Promise.all(clients.map((client) => client.end()));
  });
});
