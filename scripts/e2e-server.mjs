// For browser tests and pictures: a fresh database and the built server, until SIGTERM.
import { spawn } from 'node:child_process';
import { mkdtempSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { FAST, startPostgres, stopPostgres } from './pg.mjs';

const root = join(import.meta.dirname, '..');
const dir = mkdtempSync(join(tmpdir(), 'deep-patch-e2e-'));
const data = mkdtempSync(join(tmpdir(), 'deep-patch-key-'));
const { url, passwordFile } = await startPostgres(dir, { settings: FAST });
const server = spawn(process.execPath, ['--enable-source-maps', join(root, 'packages/server/dist/main.js')], {
  stdio: 'inherit',
  env: {
    LOG_LEVEL: 'warn',
    // what is rehearsed takes its own time; the tests need not
    BENCH_SPEED: '5',
    ...process.env,
    DATABASE_URL: url,
    DATABASE_PASSWORD_FILE: passwordFile,
    DEEP_PATCH_DATA: data,
  },
});
server.on('exit', (code) => {
  stopPostgres(dir, { remove: true });
  rmSync(data, { recursive: true, force: true });
  process.exit(code ?? 0);
});
for (const signal of ['SIGTERM', 'SIGINT']) process.on(signal, () => server.kill(signal));
