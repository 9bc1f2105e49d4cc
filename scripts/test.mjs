// All checks from a fresh clone. Ends on one line that sums every runner.
import { spawnSync } from 'node:child_process';
import { existsSync, mkdirSync, readFileSync } from 'node:fs';
import { join } from 'node:path';
import {
  captureTools,
  checkNode,
  chromium,
  ensureDebian,
  ensurePackages,
  fonts,
  oscTools,
  postgres,
  root,
  say,
} from './prepare.mjs';

checkNode();
ensurePackages();
ensureDebian([postgres, chromium, fonts, ...(process.getuid() === 0 ? [oscTools, captureTools] : [])]);
mkdirSync(join(root, 'test-results'), { recursive: true });

const total = { passed: 0, failed: 0, skipped: 0 };
const started = Date.now();

/** A check that is one test: it passes or it fails. */
function check(name, command, args) {
  const done = run(name, command, args);
  add(name, { passed: done ? 1 : 0, failed: done ? 0 : 1, skipped: 0 });
}

/** A runner with tests of its own; if it dies before it counts, that is a failure. */
function runner(name, command, args, count) {
  const done = run(name, command, args);
  const counted = count();
  add(name, !done && counted.failed === 0 ? { ...counted, failed: 1 } : counted);
}

function run(name, command, args) {
  say(`\n--- ${name}`);
  return spawnSync(command, args, { cwd: root, stdio: ['ignore', 'inherit', 'inherit'] }).status === 0;
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
check('types', ...npx('tsc', '-b'));
check('lint', 'npm', ['run', '--silent', 'lint']);
check('format', ...npx('prettier', '--check', '--log-level', 'warn', '.'));
check('unused code', ...npx('knip'));
const names = join(root, '../shared/check-names.mjs');
if (existsSync(names)) check('names', process.execPath, [names, root]);
runner(
  'unit and integration tests',
  ...npx('vitest', 'run', '--reporter=default', '--reporter=json', '--outputFile.json=test-results/unit.json'),
  readJson('unit.json', (r) => ({ passed: r.numPassedTests, failed: r.numFailedTests, skipped: r.numPendingTests })),
);
check('build', process.execPath, [join(root, 'scripts/build.mjs')]);
runner(
  'browser tests',
  ...npx('playwright', 'test'),
  readJson('e2e.json', ({ stats }) => ({
    passed: stats.expected,
    failed: stats.unexpected + stats.flaky,
    skipped: stats.skipped,
  })),
);

const skipped = total.skipped > 0 ? `, ${total.skipped} skipped` : '';
say(`\n${total.passed} passed, ${total.failed} failed${skipped}`);
process.exitCode = total.failed === 0 ? 0 : 1;
