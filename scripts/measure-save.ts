// npm run measure -- save: a change of one row by each of twenty people at once, beside a bare INSERT of the same row.
import { spawn } from 'node:child_process';
import { chmodSync, mkdtempSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { setTimeout as sleep } from 'node:timers/promises';
import { Pool } from 'pg';
import { Changes } from '../packages/server/src/db/changes.ts';
import { openPool } from '../packages/server/src/db/pool.ts';
import { show as core } from '@deep-patch/core';
import { measureLines } from './measure-lines.ts';
import { freePort, SAFE, startPostgres, stopPostgres } from './pg.mjs';

const [writers, each, rounds] = [20, 25, 5];
const show = 'harbour-finals';
const dir = mkdtempSync(join(tmpdir(), 'deep-patch-save-'));
chmodSync(dir, 0o755);
const cluster = join(dir, 'postgres');
const database = await startPostgres(cluster, { settings: SAFE });
const port = await freePort();
const server = spawn(process.execPath, [join(import.meta.dirname, '../packages/server/dist/main.js')], {
  env: {
    ...process.env,
    PORT: String(port),
    LOG_LEVEL: 'error',
    DATABASE_URL: database.url,
    DATABASE_PASSWORD_FILE: database.passwordFile,
    DEEP_PATCH_DATA: dir,
  },
  stdio: ['ignore', 'ignore', 'inherit'],
});
const base = `http://127.0.0.1:${port}/api`;
const answers = () =>
  fetch(`${base}/health`).then(
    ({ ok }) => ok,
    () => false,
  );
while (!(await answers())) await sleep(100);

const pool = new Pool({ connectionString: database.secretUrl, max: writers });
await pool.query('create table bare (id text primary key, rev integer, edits jsonb)');
const row = (id: string, name: string) => ({
  id,
  typeId: 'tablet',
  name,
  unit: null,
  place: '',
  firmware: null,
  note: '',
});

/** Times in milliseconds of what `writers` do at once, each one after the other. */
async function timesOf(work: (writer: number, n: number) => Promise<unknown>): Promise<number[]> {
  const times: number[] = [];
  const write = async (writer: number) => {
    for (let n = 0; n < each; n += 1) {
      const start = performance.now();
      await work(writer, n);
      times.push(performance.now() - start);
    }
  };
  await Promise.all(Array.from({ length: writers }, (_, writer) => write(writer)));
  return times;
}
const p95 = (times: readonly number[]) => [...times].sort((a, b) => a - b)[Math.floor(times.length * 0.95)] ?? 0;
const median = (values: readonly number[]) => [...values].sort((a, b) => a - b)[Math.floor(values.length / 2)] ?? 0;

const bare = (round: number) =>
  timesOf((writer, n) => {
    const id = `b${round}-${writer}-${n}`;
    const edits = [{ table: 'devices', id, base: 0, before: null, after: row(id, 'x') }];
    return pool.query('insert into bare (id, rev, edits) values ($1, $2, $3)', [id, n, JSON.stringify(edits)]);
  });
const added = (id: string) => {
  const after = core.filledRow('devices', row(id, 'x'));
  return { label: 'x', edits: [core.insertRow('devices', after)] };
};
const ownPool = openPool(database.secretUrl);
const changes = new Changes(ownPool);
/** As the server does it, in the same process as the bare INSERT. */
const saved = (round: number) =>
  timesOf((writer, n) => {
    const id = `p${round}-${writer}-${n}`;
    return changes.save(show, { id, author: `author-save-${writer}`, change: added(id) });
  });
/** With a request and its answer around it. */
const asked = (round: number) =>
  timesOf(async (writer, n) => {
    const id = `s${round}-${writer}-${n}`;
    const change = added(id);
    const answer = await fetch(`${base}/shows/${show}/changes`, {
      method: 'POST',
      headers: { 'content-type': 'application/json' },
      body: JSON.stringify({ id, author: `author-save-${writer}`, change }),
    });
    if (answer.status !== 201) throw new Error(await answer.text());
  });

// in turns, so that a machine that slows down slows all of them
const rows: { bare: number; saved: number; asked: number }[] = [];
for (let round = 0; round <= rounds; round += 1) {
  const times = { bare: p95(await bare(round)), saved: p95(await saved(round)), asked: p95(await asked(round)) };
  if (round > 0) rows.push(times);
}
await Promise.all([pool.end(), ownPool.end()]);
server.kill('SIGTERM');
await new Promise((done) => server.once('exit', done));
stopPostgres(cluster);
rmSync(dir, { recursive: true });

const ratioOf = (what: 'saved' | 'asked') => median(rows.map((times) => times[what] / times.bare));
const { tell, show: showLines } = measureLines();
const ms = (what: keyof (typeof rows)[number]) => `${median(rows.map((times) => times[what])).toFixed(1)} ms`;
tell(
  `saving a change, ${writers} people at once, 95th percentile`,
  `${ms('saved')}, a bare INSERT ${ms('bare')} (${ratioOf('saved').toFixed(1)}x)`,
  'at most 2x',
  ratioOf('saved') <= 2,
);
tell('the same through the server of the page', `${ms('asked')} (${ratioOf('asked').toFixed(1)}x)`);
showLines();
