// All checks from a fresh clone. Ends on one line that sums every runner.
import { spawn } from 'node:child_process';
import { mkdirSync, readFileSync } from 'node:fs';
import { join } from 'node:path';
import {
  captureTools,
  checkNode,
  chromium,
  ensureDebian,
  ensurePackages,
  fonts,
  ltcTools,
  oscTools,
  postgres,
  root,
  say,
} from './prepare.mjs';

checkNode();
ensurePackages();
ensureDebian([postgres, chromium, fonts, ...(process.getuid() === 0 ? [oscTools, captureTools, ltcTools] : [])]);
mkdirSync(join(root, 'test-results'), { recursive: true });

/** What is built once is not built again by a runner, under the feet of the other. */
const built = { ...process.env, DEEP_PATCH_BUILT: 'yes' };

const total = { passed: 0, failed: 0, skipped: 0 };
const started = Date.now();

/** Checks that are one test each, two at a time; what one of them says is shown when it is done, in one piece. */
async function checks(...wanted) {
  const waiting = [...wanted];
  const next = async () => {
    for (let one = waiting.shift(); one; one = waiting.shift()) {
      const [name, command, args] = one;
      const { code, text } = await quietly(command, args);
      say(`\n--- ${name}\n${text.trim()}`);
      add(name, { passed: code === 0 ? 1 : 0, failed: code === 0 ? 0 : 1, skipped: 0 });
    }
  };
  await Promise.all([next(), next()]);
}

function quietly(command, args) {
  const child = spawn(command, args, { cwd: root, env: built, stdio: ['ignore', 'pipe', 'pipe'] });
  let text = '';
  for (const stream of [child.stdout, child.stderr]) stream.on('data', (chunk) => (text += chunk));
  return new Promise((done) => child.on('close', (code) => done({ code, text })));
}

/** Runners with tests of their own, side by side: each waits a good deal. One that dies before it counts has failed. */
async function runners(...wanted) {
  const run = async ([name, [command, args], count]) => {
    const { code, text } = await quietly(command, args);
    say(`\n--- ${name}\n${text.trim()}`);
    const counted = count();
    add(name, code !== 0 && counted.failed === 0 ? { ...counted, failed: 1 } : counted);
  };
  await Promise.all(wanted.map(run));
}

function add(name, { passed, failed, skipped }) {
  total.passed += passed;
  total.failed += failed;
  total.skipped += skipped;
  say(`--- ${name}: ${failed === 0 ? 'ok' : `${failed} failed`} (${Math.round((Date.now() - started) / 1000)} s)`);
}

const readJson = (file, count) => () => {
  try {
    return count(JSON.parse(readFileSync(join(root, 'test-results', file), 'utf8')));
  } catch {
    return { passed: 0, failed: 1, skipped: 0 };
  }
};

const npx = (...args) => ['npx', ['--no-install', ...args]];
const own = (file, ...args) => [process.execPath, [join(root, 'scripts', file), ...args]];
await checks(
  ['types', ...npx('tsc', '-b')],
  ['lint', ...npx('oxlint')],
  ['format', ...npx('prettier', '--check', '--log-level', 'warn', '.')],
  ['unused code', ...npx('knip')],
  ['names', ...own('check-names.mjs', root)],
  ['build', ...own('build.mjs')],
);
await runners(
  [
    'browser tests',
    npx('playwright', 'test'),
    readJson('e2e.json', ({ stats }) => ({
      passed: stats.expected,
      failed: stats.unexpected + stats.flaky,
      skipped: stats.skipped,
    })),
  ],
  [
    'unit and integration tests',
    npx('vitest', 'run', '--reporter=default', '--reporter=json', '--outputFile.json=test-results/unit.json'),
    readJson('unit.json', (r) => ({ passed: r.numPassedTests, failed: r.numFailedTests, skipped: r.numPendingTests })),
  ],
);

const skipped = total.skipped > 0 ? `, ${total.skipped} skipped` : '';
say(`\n${total.passed} passed, ${total.failed} failed${skipped}`);
process.exitCode = total.failed === 0 ? 0 : 1;
