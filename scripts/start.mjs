// One command from a fresh clone to a running Deep Patch.
import { mkdirSync } from 'node:fs';
import { createServer } from 'node:net';
import { homedir } from 'node:os';
import { join } from 'node:path';
import { setTimeout as sleep } from 'node:timers/promises';
import { holdFolder } from './hold.mjs';
import { clientsOf, startPostgres } from './pg.mjs';
import { checkNode, ensureBuild, ensureDebian, ensurePackages, giveUp, postgres, root, say } from './prepare.mjs';
import { isFull, keepDatabase, keepServer } from './supervise.mjs';

// root cannot run the database and its home folder is closed to the user who does
const home = process.getuid() === 0 ? '/var/lib' : (process.env.XDG_DATA_HOME ?? join(homedir(), '.local/share'));
const dataDir = process.env.DEEP_PATCH_DATA ?? join(home, 'deep-patch');
const clusterDir = join(dataDir, 'postgres');
const port = process.env.PORT ?? '7300';

checkNode();
await holdAll();
ensurePackages();
ensureDebian([postgres]);
ensureBuild();

const database = await openDatabase();
const endWatch = database.own ? keepDatabase(clusterDir, database.port, say) : () => undefined;
const server = keepServer(
  join(root, 'packages/server/dist/main.js'),
  process.argv.slice(2),
  {
    LOG_LEVEL: 'warn',
    ...process.env,
    DATABASE_URL: database.url,
    DEEP_PATCH_DATA: dataDir,
    ...(database.own && { DATABASE_PASSWORD_FILE: database.passwordFile }),
  },
  say,
);
for (const signal of ['SIGTERM', 'SIGINT', 'SIGHUP']) process.on(signal, () => server.stop());
const code = await server.ended;
await endWatch();
if (database.own) await stopDatabase();
process.exit(code);

/** The data folder and the port are this process's own, or it ends at once and says whose they are. */
async function holdAll() {
  try {
    // open to be entered: as root, the database runs as another user
    mkdirSync(dataDir, { recursive: true, mode: 0o755 });
  } catch (error) {
    giveUp(`${dataDir} cannot be made: ${error.message} (DEEP_PATCH_DATA chooses another folder.)`);
  }
  const other = await holdFolder(dataDir, `http://127.0.0.1:${port} (process ${process.pid})`);
  if (other)
    giveUp(`${dataDir} is in use by Deep Patch at ${other}. Open that, end it, or choose another DEEP_PATCH_DATA.`);
  if (await isTaken(Number(port)))
    giveUp(
      `Port ${port} is in use, perhaps by another Deep Patch: open http://127.0.0.1:${port} or start with PORT=7301.`,
    );
}

/** A port that makes no sense is left to the server, which says why. */
function isTaken(wanted) {
  if (!Number.isInteger(wanted) || wanted < 1 || wanted > 65_535) return false;
  return new Promise((done) => {
    const probe = createServer();
    probe.once('error', ({ code: fault }) => done(fault === 'EADDRINUSE'));
    probe.listen(wanted, '127.0.0.1', () => probe.close(() => done(false)));
  });
}

async function openDatabase() {
  if (process.env.DATABASE_URL) return { url: process.env.DATABASE_URL, own: false };
  say(`Starting the database in ${dataDir} ...`);
  try {
    return { ...(await startPostgres(clusterDir)), own: true };
  } catch (error) {
    if (isFull(dataDir)) giveUp(`The disk of ${dataDir} is full. Make room and start again.`);
    return giveUp(`The database did not start: ${error.message.trim()} (DEEP_PATCH_DATA chooses another folder.)`);
  }
}

/** One that was running before, and that somebody else still uses, is not ours to stop. */
async function stopDatabase() {
  if (!database.started && (await isStillUsed()))
    say('The database was running before and somebody else uses it: it stays.');
  else database.stop();
}

/** Our own server has only just left: what it had open there takes a moment to go, longer on a busy machine. */
async function isStillUsed() {
  for (const end = Date.now() + 5000; Date.now() < end; await sleep(250))
    if (clientsOf(clusterDir, database.port) === 0) return false;
  return clientsOf(clusterDir, database.port) > 0;
}
