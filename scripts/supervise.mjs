// Keeps the database and the server alive: what ends is started again, and whoever starts it says so.
import { spawn } from 'node:child_process';
import { statfsSync } from 'node:fs';
import { setTimeout as sleep } from 'node:timers/promises';
import { isAlive, startPostgres } from './pg.mjs';

const lookEveryMs = 500;
const longestWaitMs = 8000;
/** What a cluster needs at least to start and to write on. */
const roomToStart = 32 << 20;

export const isFull = (dir) => {
  const { bavail, bsize } = statfsSync(dir);
  return bavail * bsize < roomToStart;
};

/** Starts the database again whenever it has ended, on the port that the server knows. Answers what ends that. */
export function keepDatabase(dir, port, say) {
  const ending = new AbortController();
  const { signal } = ending;
  const pause = (ms) => sleep(ms, undefined, { signal, ref: false }).catch(() => undefined);
  const startAgain = async () => {
    for (let waitMs = lookEveryMs; !signal.aborted; waitMs = Math.min(2 * waitMs, longestWaitMs)) {
      try {
        await startPostgres(dir, { port });
        say('The database runs again.');
        return;
      } catch (error) {
        const why = isFull(dir)
          ? `the disk of ${dir} is full. Make room; it starts by itself then.`
          : error.message.trim().split('\n').at(-1);
        say(`The database does not start: ${why}`);
      }
      await pause(waitMs);
    }
  };
  const watch = async () => {
    for (; !signal.aborted; await pause(lookEveryMs)) {
      if (isAlive(dir)) continue;
      say('The database ended; starting it again.');
      await startAgain();
    }
  };
  const done = watch();
  return async () => {
    ending.abort();
    await done;
  };
}

/** So often within so long a server may end before it is given up. */
const [mostEnds, withinMs] = [5, 60_000];

/**
 * Runs the server until it is told to stop, and again when it ended by itself after it had once been ready. Resolves with
 * the code of the last one.
 */
export function keepServer(entry, args, env, say) {
  const ends = [];
  let child;
  let stopping = false;
  const start = (done) => {
    let wasReady = false;
    // the channel tells the server when this process is gone, however it went
    child = spawn(process.execPath, ['--enable-source-maps', entry, ...args], {
      stdio: ['ignore', 'inherit', 'inherit', 'ipc'],
      env,
    });
    child.on('message', (message) => (wasReady ||= message === 'ready'));
    child.on('exit', (code, signal) => {
      const now = Date.now();
      ends.push(now);
      const isOften = ends.filter((at) => at > now - withinMs).length > mostEnds;
      if (stopping || !wasReady || isOften) {
        if (isOften) say(`The server ended ${mostEnds} times within a minute and is left alone.`);
        done(code ?? 1);
        return;
      }
      say(`The server ended (${signal ?? `code ${code}`}); starting it again.`);
      start(done);
    });
  };
  return {
    ended: new Promise((done) => start(done)),
    stop: () => {
      stopping = true;
      child.kill('SIGTERM');
    },
  };
}
