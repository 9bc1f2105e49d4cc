import { spawn } from 'node:child_process';
import { join } from 'node:path';
import { setTimeout as sleep } from 'node:timers/promises';
import { freePort } from './pg.mjs';

export interface Served {
  readonly base: string;
  readonly pid: number;
  readonly stop: () => Promise<void>;
  /** At once, for a process that ends. */
  readonly kill: () => void;
}

/** The built server with a database of its own, for as long as something is measured. */
export async function served(): Promise<Served> {
  const port = await freePort();
  const child = spawn(process.execPath, [join(import.meta.dirname, 'e2e-server.mjs')], {
    env: { ...process.env, PORT: String(port), LOG_LEVEL: 'error' },
    stdio: ['ignore', 'ignore', 'inherit'],
  });
  const base = `http://127.0.0.1:${port}`;
  const answers = () =>
    fetch(`${base}/api/health`).then(
      ({ ok }) => ok,
      () => false,
    );
  for (let attempt = 0; !(await answers()); attempt += 1) {
    if (attempt === 300 || child.exitCode !== null) throw new Error('the server did not start');
    await sleep(100);
  }
  const ended = new Promise<void>((done) => child.once('exit', () => done()));
  return {
    base,
    pid: child.pid ?? 0,
    kill: () => void child.kill('SIGTERM'),
    stop: () => {
      child.kill('SIGTERM');
      return ended;
    },
  };
}
