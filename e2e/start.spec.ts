import { chmodSync, mkdtempSync, readFileSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { expect, test } from '@playwright/test';
import { killRounds } from '../scripts/kill-rounds.mjs';
import pg from 'pg';
import { freePort, startPostgres } from '../scripts/pg.mjs';
import { isRunning, kill, processesOf, runStart } from '../scripts/running-start.mjs';

const health = async (base: string) => (await fetch(`${base}/health`).catch(() => undefined))?.status ?? 0;

/** As root, the database runs as another user, who has to get there. */
function folder(): string {
  const dir = mkdtempSync(join(tmpdir(), 'deep-patch-start-'));
  chmodSync(dir, 0o755);
  return dir;
}

test.describe('npm start', () => {
  test.describe.configure({ mode: 'serial' });
  const dataDir = folder();
  test.afterAll(() => rmSync(dataDir, { recursive: true, force: true }));

  test('has its folder and port for itself, starts what ended again, and leaves nothing behind', async () => {
    const port = await freePort();
    const first = await runStart(dataDir, port);
    expect(await health(first.base), first.said()).toBe(200);

    const sameFolder = await runStart(dataDir, await freePort());
    expect([await sameFolder.ended, sameFolder.said()]).toEqual([
      1,
      expect.stringContaining(
        `${dataDir} is in use by Deep Patch at http://127.0.0.1:${port} (process ${first.child.pid})`,
      ),
    ]);
    const other = folder();
    const samePort = await runStart(other, port);
    expect([await samePort.ended, samePort.said()]).toEqual([1, expect.stringContaining(`Port ${port} is in use`)]);
    rmSync(other, { recursive: true });
    expect(await health(first.base)).toBe(200);

    const before = processesOf(dataDir, first.child.pid);
    // no password stands where others can read it
    const secrets = ['password', 'server.password'].map((file) =>
      readFileSync(join(dataDir, 'postgres', file), 'utf8').trim(),
    );
    for (const pid of [before.launcher, before.server, before.database])
      for (const place of ['environ', 'cmdline']) {
        const text = readFileSync(`/proc/${pid}/${place}`, 'utf8');
        expect([place, text.length > 20, secrets.some((secret) => text.includes(secret))]).toEqual([
          place,
          true,
          false,
        ]);
      }
    kill(before.database);
    await expect.poll(() => first.said()).toContain('The database runs again.');
    await expect.poll(() => health(first.base)).toBe(200);
    kill(before.server);
    await expect.poll(() => first.said()).toContain('The server ended (SIGKILL); starting it again.');
    await expect.poll(() => health(first.base)).toBe(200);

    // its children end with it, but for the database, which the next start takes over
    const last = processesOf(dataDir, first.child.pid);
    kill(first.child.pid);
    await expect.poll(() => isRunning(last.server)).toBe(false);
    const second = await runStart(dataDir, port);
    expect([await health(second.base), processesOf(dataDir, second.child.pid).database]).toEqual([200, last.database]);
    // one that it took over and that somebody else uses stays when it goes
    const { secretUrl } = await startPostgres(join(dataDir, 'postgres'));
    const user = new pg.Client({ connectionString: secretUrl });
    await user.connect();
    second.child.kill('SIGTERM');
    expect([await second.ended, isRunning(last.database)]).toEqual([0, true]);
    expect(second.said()).toContain('somebody else uses it: it stays');
    expect((await user.query('select count(*)::integer as shows from show')).rows).toEqual([{ shows: 1 }]);
    await user.end();
    const third = await runStart(dataDir, port);
    third.child.kill('SIGTERM');
    expect([await third.ended, isRunning(last.database)]).toEqual([0, false]);
  });

  test('says what an option or a port is that makes no sense', async () => {
    const run = await runStart(dataDir, 70_000);
    expect([await run.ended, run.said()]).toEqual([1, expect.stringContaining('PORT is 70000')]);
    const option = await runStart(dataDir, await freePort(), ['--fresh']);
    expect([await option.ended, option.said()]).toEqual([1, expect.stringContaining('--fresh is no option')]);
  });

  test('loses and doubles nothing that was acknowledged, whatever is killed', async () => {
    const seed = Math.floor(Date.now() / 1000);
    console.log(`KILL_SEED=${seed}`);
    const { acknowledged, lost, twice } = await killRounds({ rounds: 3, dataDir, seed });
    expect({ lost, twice }).toEqual({ lost: [], twice: [] });
    expect(acknowledged).toBeGreaterThan(60);
  });
});
