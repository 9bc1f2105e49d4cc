import { randomBytes } from 'node:crypto';
import { mkdtempSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { contract } from '@deep-patch/core';
import pg from 'pg';
import { pino } from 'pino';
import { inject } from 'vitest';
import WebSocket from 'ws';
import { serve, type Running } from '../src/serve.ts';

export interface Answer {
  readonly status: number;
  readonly body: Record<string, unknown> & { code?: string };
  readonly type: string;
}

export interface TestServer extends Running {
  readonly databaseUrl: string;
  readonly dataDir: string;
  readonly log: () => string;
  readonly call: (method: string, path: string, body?: unknown, headers?: Record<string, string>) => Promise<Answer>;
  readonly socket: (showId: string) => Promise<{
    messages: contract.LiveMessage[];
    /** The states of the bench that a tab would have had, one after the other. */
    states: () => contract.BenchState[];
    socket: WebSocket;
    until: (check: (m: contract.LiveMessage) => boolean) => Promise<contract.LiveMessage>;
  }>;
}

const here = join(import.meta.dirname, '..');

/** The real server on a free port with a database of its own, or on the given one. */
export async function startServer(databaseUrl?: string, dataDir?: string, newKey = false): Promise<TestServer> {
  const made = databaseUrl === undefined ? await makeDatabase() : undefined;
  const url = databaseUrl ?? made?.url ?? '';
  const data = dataDir ?? mkdtempSync(join(tmpdir(), 'deep-patch-key-'));
  let log = '';
  const logger = pino({ level: 'trace' }, { write: (line: string) => void (log += line) });
  const config = {
    port: 0,
    host: '127.0.0.1',
    databaseUrl: url,
    dataDir: data,
    webDist: join(here, '../web/dist'),
    benchEntry: join(here, 'dist/bench.js'),
    benchSpeed: 1,
    readerEntry: join(here, 'dist/reader.js'),
    logLevel: 'trace',
    newKey,
  };
  const running = await serve(config, logger, join(here, 'migrations'));
  const base = `http://127.0.0.1:${running.port}`;
  return {
    ...running,
    databaseUrl: url,
    dataDir: data,
    log: () => log,
    call: async (method, path, body, headers = {}) => {
      const text = typeof body === 'string' ? body : JSON.stringify(body);
      const response = await fetch(`${base}/api${path}`, {
        method,
        headers: { 'content-type': 'application/json', ...headers },
        ...(body === undefined ? {} : { body: text }),
      });
      const answer = await response.text();
      return {
        status: response.status,
        type: response.headers.get('content-type') ?? '',
        body: (answer && /json/.test(response.headers.get('content-type') ?? '')
          ? JSON.parse(answer)
          : { text: answer }) as Answer['body'],
      };
    },
    socket: (showId) => openSocket(`ws://127.0.0.1:${running.port}/api/live`, showId),
    stop: async () => {
      await running.stop();
      await made?.drop();
      if (dataDir === undefined) rmSync(data, { recursive: true, force: true });
    },
  };
}

/** How long a test waits for something to be told, in ms: a bound against hanging, not a measure, so that a busy machine is not a fault. */
export const patience = 60_000;

async function openSocket(url: string, showId: string) {
  const socket = new WebSocket(url);
  const messages: contract.LiveMessage[] = [];
  const waiting = new Set<() => void>();
  socket.on('message', (data) => {
    messages.push(JSON.parse((data as Buffer).toString('utf8')) as contract.LiveMessage);
    for (const look of waiting) look();
  });
  await new Promise((done, refuse) => socket.once('open', done).once('error', refuse));
  socket.send(JSON.stringify({ topic: 'join', showId }));
  const until = (check: (message: contract.LiveMessage) => boolean) =>
    new Promise<contract.LiveMessage>((done, refuse) => {
      const timer = setTimeout(
        () => refuse(new Error(`not told; heard ${JSON.stringify(messages.slice(-5))}`)),
        patience,
      );
      const look = () => {
        const found = messages.find(check);
        if (!found) return;
        clearTimeout(timer);
        waiting.delete(look);
        done(found);
      };
      waiting.add(look);
      look();
    });
  return { messages, states: () => statesOf(messages), socket, until };
}

function statesOf(messages: readonly contract.LiveMessage[]): contract.BenchState[] {
  const states: contract.BenchState[] = [];
  for (const message of messages) {
    const last = states.at(-1);
    if (message.topic === 'bench' && message.state) states.push(message.state);
    else if (message.topic === 'bench-news' && last) {
      const next = contract.withDifference(last, message.difference);
      if (!next) throw new Error(`a difference to ${message.difference.base}, which is not ${last.seq}`);
      states.push(next);
    }
  }
  return states;
}

export async function makeDatabase(): Promise<{ url: string; drop: () => Promise<void> }> {
  const role = new URL(inject('databaseUrl')).username;
  const name = `t_${randomBytes(6).toString('hex')}`;
  const run = async (sql: string) => {
    const client = new pg.Client({ connectionString: inject('keeperUrl') });
    await client.connect();
    try {
      await client.query(sql);
    } finally {
      await client.end();
    }
  };
  await run(`create database ${name} owner ${role}`);
  const url = new URL(inject('databaseUrl'));
  url.pathname = `/${name}`;
  return { url: url.href, drop: () => run(`drop database ${name} with (force)`) };
}
