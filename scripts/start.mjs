// One command from a fresh clone to a running Deep Patch.
import { spawn } from 'node:child_process';
import { mkdirSync } from 'node:fs';
import { homedir } from 'node:os';
import { join } from 'node:path';
import { startPostgres } from './pg.mjs';
import { checkNode, ensureBuild, ensureDebian, ensurePackages, giveUp, postgres, root, say } from './prepare.mjs';

checkNode();
ensurePackages();
ensureDebian([postgres]);
ensureBuild();

// root cannot run the database and its home folder is closed to the user who does
const home = process.getuid() === 0 ? '/var/lib' : (process.env.XDG_DATA_HOME ?? join(homedir(), '.local/share'));
const dataDir = process.env.DEEP_PATCH_DATA ?? join(home, 'deep-patch');
const database = await openDatabase();
const server = spawn(process.execPath, ['--enable-source-maps', join(root, 'packages/server/dist/main.js')], {
  stdio: ['ignore', 'inherit', 'inherit'],
  env: { LOG_LEVEL: 'warn', ...process.env, DATABASE_URL: database.url, DEEP_PATCH_DATA: dataDir },
});
for (const signal of ['SIGTERM', 'SIGINT']) process.on(signal, () => server.kill('SIGTERM'));
server.on('exit', (code) => {
  if (database.started) database.stop();
  process.exit(code ?? 0);
});

async function openDatabase() {
  if (process.env.DATABASE_URL) return { url: process.env.DATABASE_URL, started: false };
  say(`Starting the database in ${dataDir} ...`);
  try {
    // open to be entered: as root, the database runs as another user
    mkdirSync(dataDir, { recursive: true, mode: 0o755 });
    return await startPostgres(join(dataDir, 'postgres'));
  } catch (error) {
    return giveUp(`The database did not start: ${error.message.trim()} (DEEP_PATCH_DATA chooses another folder.)`);
  }
}
