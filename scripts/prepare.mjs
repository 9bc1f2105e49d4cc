// What a fresh machine needs before anything can start. Plain Node, no packages.
import { spawnSync } from 'node:child_process';
import { createHash } from 'node:crypto';
import { existsSync, mkdirSync, readFileSync, readdirSync, statSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';
import { browserPath } from './browser.mjs';

export const root = join(import.meta.dirname, '..');
export const say = (text) => process.stdout.write(`${text}\n`);

/** Ends the process with one sentence that says what is missing and how to get it. */
export function giveUp(text) {
  process.stderr.write(`${text}\n`);
  process.exit(1);
}

export function checkNode() {
  const [major, minor] = process.versions.node.split('.').map(Number);
  if (major < 20 || (major === 20 && minor < 19))
    giveUp(
      `Deep Patch needs Node 20.19 or later; this is ${process.versions.node}. Install a newer Node and start again.`,
    );
}

/** npm packages exactly as the lock has them; skipped while the lock is the one that was installed. */
export function ensurePackages() {
  const stamp = join(root, 'node_modules/.deep-patch-lock');
  const lock = digest([join(root, 'package-lock.json')]);
  if (existsSync(stamp) && readFileSync(stamp, 'utf8') === lock) return;
  if (isInstalled()) {
    // by hand, which is as good: installing anew would take the packages away from whoever is running here
    writeFileSync(stamp, lock);
    return;
  }
  say('Installing npm packages from the lock (about a minute) ...');
  const done = spawnSync('npm', ['ci', '--no-progress'], { cwd: root, stdio: ['ignore', 'ignore', 'inherit'] });
  if (done.status !== 0) giveUp('The npm packages could not be installed: run "npm ci" here and read what it says.');
  writeFileSync(stamp, lock);
}

/** Does what stands in node_modules have the versions of the lock? What is optional may be missing on this machine. */
function isInstalled() {
  const own = join(root, 'node_modules/.package-lock.json');
  if (!existsSync(own)) return false;
  const packagesOf = (file) => JSON.parse(readFileSync(file, 'utf8')).packages ?? {};
  const there = packagesOf(own);
  return Object.entries(packagesOf(join(root, 'package-lock.json'))).every(
    ([path, { version, link, optional }]) =>
      !path.startsWith('node_modules/') || link || there[path]?.version === version || (optional && !there[path]),
  );
}

/** Debian packages by the file that each brings; installs what is missing as root, else says how to. */
export function ensureDebian(wanted) {
  const missing = wanted.filter(({ isThere }) => !isThere());
  if (missing.length === 0) return;
  const names = missing.map(({ name }) => name).join(' ');
  if (process.getuid() !== 0 || !existsSync('/usr/bin/apt-get'))
    giveUp(
      `Missing on this machine: ${missing.map(({ what }) => what).join(', ')}. Ask an administrator to run: apt-get install -y --no-install-recommends ${names}`,
    );
  say(`Installing from Debian: ${names} ...`);
  keepClusterAway();
  const env = { ...process.env, DEBIAN_FRONTEND: 'noninteractive' };
  const run = (args) => spawnSync('apt-get', args, { env, stdio: ['ignore', 'ignore', 'pipe'], encoding: 'utf8' });
  run(['update', '-q']);
  const done = run([
    'install',
    '-y',
    '-q',
    '--no-install-recommends',
    '-o',
    'Dpkg::Options::=--force-confold',
    ...names.split(' '),
  ]);
  if (done.status !== 0) giveUp(`apt-get could not install ${names}: ${done.stderr.trim().split('\n').at(-1)}`);
}

/** Debian's package would make a cluster of its own on 5432; we need the programs only. */
function keepClusterAway() {
  const file = '/etc/postgresql-common/createcluster.conf';
  if (existsSync(file)) return;
  mkdirSync('/etc/postgresql-common', { recursive: true });
  writeFileSync(file, 'create_main_cluster = false\n');
}

const versions = () => (existsSync('/usr/lib/postgresql') ? readdirSync('/usr/lib/postgresql') : []);
export const postgres = {
  name: 'postgresql-15',
  what: 'the PostgreSQL server',
  isThere: () =>
    Boolean(process.env.DATABASE_URL || process.env.PG_BIN) ||
    versions().some((v) => existsSync(`/usr/lib/postgresql/${v}/bin/initdb`)),
};
export const chromium = {
  name: 'chromium-headless-shell',
  what: 'Chromium',
  isThere: () => existsSync(browserPath),
};
export const fonts = {
  name: 'fonts-dejavu-core',
  what: 'a system font',
  isThere: () => existsSync('/usr/share/fonts/truetype/dejavu'),
};
export const oscTools = { name: 'liblo-tools', what: 'OSC tools', isThere: () => existsSync('/usr/bin/oscsend') };

export const ltcTools = {
  name: 'libltc-dev gcc libc6-dev',
  what: 'a decoder of linear time code',
  isThere: () => existsSync('/usr/include/ltc.h') && existsSync('/usr/bin/gcc'),
};

export const captureTools = {
  name: 'tcpdump tshark',
  what: 'capture tools',
  isThere: () => existsSync('/usr/bin/tcpdump') && existsSync('/usr/bin/text2pcap'),
};

/** Builds page and server when a source is newer than what was built. */
export function ensureBuild() {
  const stamp = join(root, 'packages/server/dist/.sources');
  const sources = digest(filesBelow(join(root, 'packages')).concat(join(root, 'package-lock.json')));
  if (existsSync(stamp) && readFileSync(stamp, 'utf8') === sources) return;
  say('Building (about ten seconds) ...');
  const done = spawnSync('npm', ['run', '--silent', 'build'], {
    cwd: root,
    stdio: ['ignore', 'pipe', 'pipe'],
    encoding: 'utf8',
  });
  if (done.status !== 0) giveUp(`The build failed:\n${done.stdout}${done.stderr}`);
  writeFileSync(stamp, sources);
}

function filesBelow(dir) {
  return readdirSync(dir, { withFileTypes: true }).flatMap((entry) => {
    if (['node_modules', 'dist', 'dist-types'].includes(entry.name)) return [];
    const path = join(dir, entry.name);
    return entry.isDirectory() ? filesBelow(path) : [path];
  });
}

/** By name, size and time of change: quick, and a false alarm only costs a build. */
function digest(files) {
  const hash = createHash('sha256');
  for (const file of files.sort()) {
    const { size, mtimeMs } = statSync(file);
    hash.update(file.endsWith('package-lock.json') ? readFileSync(file) : `${file} ${size} ${mtimeMs}\n`);
  }
  return hash.digest('hex');
}
