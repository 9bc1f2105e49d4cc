// `npm start` as a test or a measurement runs it: in a data folder of its own, killed in whatever way.
import { spawn } from 'node:child_process';
import { existsSync, readFileSync } from 'node:fs';
import { join } from 'node:path';
import { setTimeout as sleep } from 'node:timers/promises';
import { root } from './prepare.mjs';

const readyWithinMs = 90_000;

/** Starts it and resolves when it answers, or when it has ended; `said` is all that it wrote. */
export async function runStart(dataDir, port, args = [], settings = {}) {
  const child = spawn(process.execPath, [join(root, 'scripts/start.mjs'), ...args], {
    env: { ...process.env, DEEP_PATCH_DATA: dataDir, PORT: String(port), LOG_LEVEL: 'silent', ...settings },
    stdio: ['ignore', 'pipe', 'pipe'],
  });
  let text = '';
  for (const stream of [child.stdout, child.stderr]) stream.on('data', (chunk) => (text += chunk));
  const ended = new Promise((done) => child.on('close', (code) => done(code ?? 1)));
  const until = Date.now() + readyWithinMs;
  while (!/Deep Patch is at/.test(text) && child.exitCode === null && Date.now() < until) await sleep(50);
  return { child, ended, said: () => text, base: `http://127.0.0.1:${port}/api` };
}

/** The processes that it started, by what they are; undefined for what does not run. */
export function processesOf(dataDir, launcher) {
  const [server] = childrenOf(launcher);
  const cluster = join(dataDir, 'postgres/data/postmaster.pid');
  return {
    launcher,
    server,
    bench: server && childrenOf(server)[0],
    database: existsSync(cluster) ? Number(readFileSync(cluster, 'utf8').split('\n')[0]) : undefined,
  };
}

/** Children of a process (proc(5), children): of its main thread, which starts them. */
function childrenOf(pid) {
  try {
    return readFileSync(`/proc/${pid}/task/${pid}/children`, 'utf8').trim().split(' ').filter(Boolean).map(Number);
  } catch {
    return [];
  }
}

export const kill = (...pids) => {
  for (const pid of pids)
    try {
      if (pid) process.kill(pid, 'SIGKILL');
    } catch {
      // it is gone already
    }
};

export function isRunning(pid) {
  try {
    return pid !== undefined && !readFileSync(`/proc/${pid}/stat`, 'utf8').includes(') Z ');
  } catch {
    return false;
  }
}
