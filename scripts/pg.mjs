// A private PostgreSQL cluster on loopback. No dependencies; runs as root or as an ordinary user.
//   node scripts/pg.mjs start DIR [--fast]   prints DATABASE_URL
//   node scripts/pg.mjs stop  DIR
import { spawnSync } from 'node:child_process';
import { randomBytes } from 'node:crypto';
import { chownSync, existsSync, mkdirSync, readFileSync, readdirSync, rmSync, writeFileSync } from 'node:fs';
import { createServer } from 'node:net';
import { join, resolve } from 'node:path';
import { setTimeout as sleep } from 'node:timers/promises';

export const FAST = {
  fsync: 'off',
  synchronous_commit: 'off',
  full_page_writes: 'off',
  max_wal_senders: 0,
  wal_level: 'minimal',
  autovacuum: 'off',
  shared_buffers: '64MB',
};
export const SAFE = { fsync: 'on', synchronous_commit: 'on', full_page_writes: 'on', shared_buffers: '256MB' };

function binDir() {
  if (process.env.PG_BIN) return process.env.PG_BIN;
  const base = '/usr/lib/postgresql';
  const versions = existsSync(base) ? readdirSync(base).filter((v) => existsSync(join(base, v, 'bin/initdb'))) : [];
  const newest = versions.sort((a, b) => Number(b) - Number(a))[0];
  if (!newest) throw new Error('no PostgreSQL server: apt-get install -y --no-install-recommends postgresql-15');
  return join(base, newest, 'bin');
}

/** Root may not run the server: become `postgres`. Anyone else stays who they are. */
function owner() {
  if (process.getuid() !== 0) return undefined;
  const line = readFileSync('/etc/passwd', 'utf8')
    .split('\n')
    .find((l) => l.startsWith('postgres:'));
  if (!line) throw new Error('no user postgres (it comes with the package postgresql-common)');
  const [, , uid, gid] = line.split(':');
  return { uid: Number(uid), gid: Number(gid) };
}

function run(cmd, args, dir, who, { env = {}, input = '' } = {}) {
  const r = spawnSync(join(binDir(), cmd), args, {
    cwd: dir, // never a directory that the user postgres can't enter
    env: { PATH: process.env.PATH, LC_ALL: 'C.UTF-8', TZ: 'UTC', ...env },
    encoding: 'utf8',
    input,
    ...who,
  });
  if (r.error) throw r.error;
  return r;
}
function must(cmd, args, dir, who) {
  const r = run(cmd, args, dir, who);
  if (r.status !== 0) {
    const log = join(dir, 'server.log');
    const tail = existsSync(log) ? readFileSync(log, 'utf8').slice(-2000) : '';
    throw new Error(`${cmd} ${args.join(' ')} -> ${r.status}\n${r.stdout}${r.stderr}${tail}`);
  }
  return r;
}

export function freePort() {
  return new Promise((ok, fail) => {
    const s = createServer();
    s.once('error', fail);
    s.listen(0, '127.0.0.1', () => {
      const { port } = s.address();
      s.close(() => ok(port));
    });
  });
}

function checkReachable(dir, who) {
  if (!who) return;
  const r = spawnSync('test', ['-x', dir], { cwd: '/', ...who });
  if (r.status !== 0)
    throw new Error(
      `the user postgres can't reach ${dir}: a parent lacks o+x (chmod o+x it, or choose another directory)`,
    );
}

/** Who made the cluster may do everything in it; the server logs in as somebody who owns its tables and nothing else. */
const keeper = 'deep_patch';
const app = 'deep_patch_server';

function makeCluster(dir, data, secret, settings, who) {
  writePrivate(secret, newPassword(), who);
  const safety = settings.fsync === 'off' ? ['--no-sync'] : ['--data-checksums'];
  const locale = ['-E', 'UTF8', '--locale=C.UTF-8'];
  must(
    'initdb',
    ['-D', data, '-U', keeper, '--pwfile', secret, '--auth=scram-sha-256', ...locale, ...safety],
    dir,
    who,
  );
}

const newPassword = () => randomBytes(18).toString('base64url');

/** Passwords stand in files of their owner, in no environment and no process list. */
function writePrivate(file, text, who) {
  writeFileSync(file, `${text}\n`, { mode: 0o600 });
  if (who) chownSync(file, who.uid, who.gid);
}

/** The role of the server and its database, and whatever an earlier release left to another owner. */
function prepareRole(dir, port, database, password, who) {
  const passFile = join(dir, 'keeper.pgpass');
  writePrivate(passFile, `127.0.0.1:*:*:${keeper}:${readFileSync(join(dir, 'password'), 'utf8').trim()}`, who);
  const sql = (db, input) => {
    const where = ['-h', '127.0.0.1', '-p', String(port), '-U', keeper, '-d', db];
    const r = run('psql', ['-X', '-q', '-At', '-v', 'ON_ERROR_STOP=1', ...where], dir, who, {
      env: { PGPASSFILE: passFile },
      input,
    });
    if (r.status !== 0) throw new Error(r.stderr);
    return r.stdout.trim();
  };
  const known = sql('postgres', `select 1 from pg_roles where rolname = '${app}'`);
  sql(
    'postgres',
    `${known ? 'alter' : 'create'} role ${app} login nosuperuser nocreatedb nocreaterole password '${password}'`,
  );
  if (!sql('postgres', `select 1 from pg_database where datname = '${database}'`))
    sql('postgres', `create database ${database}`);
  sql('postgres', `alter database ${database} owner to ${app}`);
  sql(
    database,
    `do $$ declare each regclass; begin
       for each in select oid from pg_class where relnamespace = 'public'::regnamespace and relkind in ('r', 'S', 'v')
       loop execute format('alter table %s owner to ${app}', each); end loop;
     end $$`,
  );
}

/**
 * Starts the cluster in `dir`, making it first where there is none. `started` is false when it was running already.
 * `url` names the server's role without its password, which stands in `passwordFile`; the other two hold it.
 * @returns {Promise<{url: string, passwordFile: string, secretUrl: string, keeperUrl: string, port: number, started: boolean, stop: () => void}>}
 */
export async function startPostgres(dir, { settings = SAFE, database = 'deep_patch', port: wanted } = {}) {
  dir = resolve(dir);
  const who = owner();
  const data = join(dir, 'data');
  const secret = join(dir, 'password');
  mkdirSync(dir, { recursive: true, mode: 0o700 });
  if (readdirSync(dir).length > 0 && !existsSync(secret)) throw new Error(`${dir} holds something else`); // it would be chowned
  if (who) chownSync(dir, who.uid, who.gid);
  checkReachable(dir, who);
  if (!existsSync(join(data, 'PG_VERSION'))) makeCluster(dir, data, secret, settings, who);
  const { port, started } = await running(dir, data, settings, wanted, who);
  const passwordFile = join(dir, 'server.password');
  if (!existsSync(passwordFile)) {
    const fresh = newPassword();
    prepareRole(dir, port, database, fresh, who);
    writePrivate(passwordFile, fresh, who);
  }
  const password = readFileSync(passwordFile, 'utf8').trim();
  const at = `127.0.0.1:${port}/${database}`;
  return {
    url: `postgresql://${app}@${at}`,
    passwordFile,
    secretUrl: `postgresql://${app}:${password}@${at}`,
    keeperUrl: `postgresql://${keeper}:${readFileSync(secret, 'utf8').trim()}@${at}`,
    port,
    started,
    stop: () => stopPostgres(dir),
  };
}

/** Finds the server of the cluster running, or starts it. */
async function running(dir, data, settings, wanted, who) {
  const isRunning = () => run('pg_ctl', ['-D', data, 'status'], dir, who).status === 0;
  const isReady = (p) => run('pg_isready', ['-q', '-h', '127.0.0.1', '-p', String(p)], dir).status === 0;
  // A server that was killed looks alive for a moment: wait until it answers or is gone.
  for (let i = 0; i < 100 && isRunning(); i++) {
    const p = portOf(data);
    if (p > 0 && isReady(p)) return { port: p, started: false };
    await sleep(100);
  }
  for (let attempt = 1; ; attempt++) {
    const p = wanted ?? (await freePort()); // another process may take it before the server does: so try again
    const conf = {
      ...settings,
      listen_addresses: '127.0.0.1',
      port: p,
      unix_socket_directories: '',
      log_min_messages: 'warning',
    };
    const opts = Object.entries(conf)
      .map(([k, v]) => `-c ${k}='${v}'`)
      .join(' ');
    // -l is needed: without it the server keeps this process's pipe open and the call never returns
    const log = join(dir, 'server.log');
    const r = run('pg_ctl', ['-D', data, '-l', log, '-w', '-t', '60', '-o', opts, 'start'], dir, who);
    if (r.status === 0) return { port: p, started: true };
    if (attempt === 3)
      throw new Error(
        `pg_ctl start failed: ${r.stderr}${existsSync(log) ? readFileSync(log, 'utf8').slice(-2000) : ''}`,
      );
  }
}

const pidLines = (data) => {
  try {
    return readFileSync(join(data, 'postmaster.pid'), 'utf8').split('\n');
  } catch {
    return [];
  }
};
const portOf = (data) => Number(pidLines(data)[3]);

/** Does the process that calls itself this cluster's server live? Cheap enough to ask twice a second. */
export function isAlive(dir) {
  const pid = Number(pidLines(join(dir, 'data'))[0]);
  try {
    return readFileSync(`/proc/${pid}/comm`, 'utf8').startsWith('postgres');
  } catch {
    return false;
  }
}

/** How many clients are connected to the cluster beside the one that asks. */
export function clientsOf(dir, port) {
  const where = ['-h', '127.0.0.1', '-p', String(port), '-U', keeper, '-d', 'postgres'];
  const count = `select count(*) from pg_stat_activity where backend_type = 'client backend' and pid <> pg_backend_pid()`;
  const passFile = join(dir, 'keeper.pgpass');
  const r = run('psql', ['-X', '-q', '-At', ...where, '-c', count], dir, owner(), { env: { PGPASSFILE: passFile } });
  return r.status === 0 ? Number(r.stdout) : 0;
}

export function stopPostgres(dir, { remove = false } = {}) {
  dir = resolve(dir);
  const who = owner();
  const data = join(dir, 'data');
  if (existsSync(join(data, 'postmaster.pid'))) must('pg_ctl', ['-D', data, '-m', 'fast', '-w', 'stop'], dir, who);
  if (remove) rmSync(dir, { recursive: true, force: true });
}

// not when it is bundled into something else that was called
if (process.argv[1] === import.meta.filename && process.argv[1].endsWith('pg.mjs')) {
  const [verb, dir = '.pgdata', ...flags] = process.argv.slice(2);
  if (verb === 'start') {
    const { secretUrl } = await startPostgres(dir, { settings: flags.includes('--fast') ? FAST : SAFE });
    console.log(secretUrl);
  } else if (verb === 'stop') stopPostgres(dir, { remove: flags.includes('--remove') });
  else {
    console.error('usage: pg.mjs start|stop DIR [--fast] [--remove]');
    process.exitCode = 2;
  }
}
