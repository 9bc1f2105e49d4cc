// Mutants: npm run mutate [core|codecs|bench ...] [how many lines of each] [seed]. Changes small things in a random
// sample of lines and counts for how many of them a test dies. Survivors are printed: each is a line that no test holds.
import { spawnSync } from 'node:child_process';

import { mkdirSync, readdirSync, readFileSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';

const root = join(import.meta.dirname, '..');
const words = process.argv.slice(2);
const numbers = words.filter((word) => /^\d+$/.test(word)).map(Number);
const [lines = 120, seed = Date.now() % 1_000_000] = numbers;
const named = words.filter((word) => !/^\d+$/.test(word));
/** What must be killed at least, of those that change anything. */
const wanted = { core: 0.85, codecs: 0.8, bench: 0.8 };
const unknown = named.filter((name) => !(name in wanted));
if (unknown.length > 0) {
  console.error(`There is no ${unknown.join(', ')}. Choose from ${Object.keys(wanted).join(', ')}.`);
  process.exit(2);
}

mkdirSync(join(root, 'test-results'), { recursive: true });
let short = 0;
for (const name of named.length > 0 ? named : Object.keys(wanted)) if (!mutate(name)) short += 1;
process.exitCode = short > 0 ? 1 : 0;

function mutate(name) {
  const sample = sampleOf(name, lines, seed);
  console.log(`${name}: ${sample.length} lines, seed ${seed}`);
  const report = join(root, `test-results/mutants-${name}.json`);
  const config = join(root, `test-results/mutate-${name}.json`);
  writeFileSync(
    config,
    JSON.stringify({
      testRunner: 'vitest',
      plugins: ['@stryker-mutator/vitest-runner'],
      vitest: { configFile: 'scripts/mutate.vitest.config.ts', related: true },
      mutate: sample,
      coverageAnalysis: 'perTest',
      // a static mutant asks for all tests again: tables of words, and schemas
      ignoreStatic: true,
      concurrency: 2,
      timeoutMS: 20_000,
      reporters: ['json', 'progress-append-only'],
      jsonReporter: { fileName: report },
      tempDirName: 'test-results/mutants',
      ignorePatterns: ['/.data', '/docs', '/e2e', '/test-results', 'dist', 'dist-types'],
      allowEmpty: true,
    }),
  );
  const env = { ...process.env, MUTATE: name };
  const ran = spawnSync('npx', ['--no-install', 'stryker', 'run', config], {
    cwd: root,
    env,
    stdio: ['ignore', 'inherit', 'inherit'],
  });
  if (ran.status !== 0) {
    console.error(`${name}: the run ended with ${ran.status}`);
    return false;
  }
  return told(name, JSON.parse(readFileSync(report, 'utf8')));
}

/** Lines that do something, drawn by the seed: every line of the package is as likely as any other. */
function sampleOf(name, count, seed) {
  const all = readdirSync(join(root, `packages/${name}/src`), { recursive: true, encoding: 'utf8' })
    .filter((file) => file.endsWith('.ts') && !/\.(test|test-data)\.ts$/.test(file))
    .map((file) => `packages/${name}/src/${file}`)
    .sort()
    .flatMap((file) =>
      readFileSync(join(root, file), 'utf8')
        .split('\n')
        .flatMap((text, at) => (isCode(text) ? [{ file, line: at + 1 }] : [])),
    );
  const next = diceOf(seed);
  for (let at = all.length - 1; at > 0; at -= 1) {
    const other = Math.floor(next() * (at + 1));
    [all[at], all[other]] = [all[other], all[at]];
  }
  return all.slice(0, count).map(({ file, line }) => `${file}:${line}-${line}`);
}

function isCode(text) {
  const unmade = /^\s*(\/\/|\/?\*|import |export \{|export type|type |interface |readonly |\} from)/;
  return /[a-z]/.test(text) && !unmade.test(text);
}

/** A linear congruential generator with the constants of Numerical Recipes. */
function diceOf(seed) {
  let state = seed >>> 0;
  return () => {
    state = (Math.imul(state, 1664525) + 1013904223) >>> 0;
    return state / 2 ** 32;
  };
}

function told(name, { files }) {
  const mutants = Object.entries(files).flatMap(([file, { mutants: own, source }]) =>
    own.map((mutant) => ({ ...mutant, file, text: source.split('\n')[mutant.location.start.line - 1].trim() })),
  );
  const counted = mutants.filter(({ status }) => !['Ignored', 'CompileError', 'RuntimeError'].includes(status));
  const killed = counted.filter(({ status }) => status === 'Killed' || status === 'Timeout');
  for (const { file, location, mutatorName, replacement, status, text } of counted.filter((m) => !killed.includes(m)))
    console.log(
      `  ${file}:${location.start.line} ${mutatorName} ${status}\n    ${text}\n    -> ${replacement.replaceAll(/\s+/g, ' ')}`,
    );
  const share = counted.length > 0 ? killed.length / counted.length : 0;
  console.log(
    `${name}: ${killed.length} of ${counted.length} killed, ${Math.round(share * 100)} %, ` +
      `wanted ${wanted[name] * 100} % of those that are not equivalent; ${mutants.length - counted.length} left out`,
  );
  return share >= wanted[name];
}
