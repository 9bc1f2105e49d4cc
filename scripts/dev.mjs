// For development: the server restarts and the page reloads at every save. Open http://127.0.0.1:5173.
import { spawn, spawnSync } from 'node:child_process';
import { join } from 'node:path';
import { startPostgres } from './pg.mjs';
import { checkNode, ensureDebian, ensurePackages, postgres, root } from './prepare.mjs';

checkNode();
ensurePackages();
ensureDebian([postgres]);
spawnSync(process.execPath, ['build.mjs'], { cwd: join(root, 'packages/server'), stdio: 'inherit' });

const data = process.env.DEEP_PATCH_DATA ?? '/tmp/deep-patch-dev';
const database = await startPostgres(join(data, 'postgres'));
const env = {
  ...process.env,
  DATABASE_URL: database.url,
  DATABASE_PASSWORD_FILE: database.passwordFile,
  DEEP_PATCH_DATA: data,
  PORT: '7301',
  API_ORIGIN: 'http://127.0.0.1:7301',
  BENCH_ENTRY: join(root, 'packages/server/dist/bench.js'),
  READER_ENTRY: join(root, 'packages/server/dist/reader.js'),
};
const children = [
  spawn('npx', ['tsx', 'watch', 'src/main.ts'], { cwd: join(root, 'packages/server'), stdio: 'inherit', env }),
  spawn('npx', ['vite'], { cwd: join(root, 'packages/web'), stdio: 'inherit', env }),
];
for (const signal of ['SIGINT', 'SIGTERM'])
  process.on(signal, () => {
    for (const child of children) child.kill('SIGTERM');
    if (database.started) database.stop();
  });
