// npm run measure -- [part ...]: what must hold, as ratios within one run; without a name, the parts that are quick.
// Bundles what is measured as it ships, without the helpers of the development loader, and runs it.
import { spawnSync } from 'node:child_process';
import { mkdirSync } from 'node:fs';
import { join } from 'node:path';
import { build } from 'esbuild';

/** What there is, with the file that does it. Numbers behind a name are for that part: how many, from which seed. */
const parts = {
  core: 'measure-core.ts',
  'bring-up': 'measure-bring-up.ts',
  surfaces: 'measure-surfaces.ts',
  hands: 'measure-hands.ts',
  edits: 'measure-edits.ts',
  bench: 'measure-bench.ts',
  fuzz: 'measure-fuzz.ts',
  kill: 'measure-kill.ts',
  load: 'measure-load.ts',
  rigs: 'measure-rigs.ts',
  save: 'measure-save.ts',
  sound: 'measure-sound.ts',
  wall: 'measure-wall.ts',
  web: 'measure-web.ts',
};
const quick = ['bench', 'core'];

const given = process.argv.slice(2);
const wanted = given.filter((word) => Number.isNaN(Number(word)));
const numbers = given.filter((word) => !Number.isNaN(Number(word)));
const unknown = wanted.filter((name) => !(name in parts));
if (unknown.length > 0) {
  process.stderr.write(`There is no part ${unknown.join(', ')}: there are ${Object.keys(parts).join(', ')}.\n`);
  process.exit(2);
}
let faults = 0;
for (const name of wanted.length > 0 ? wanted : quick) faults += await run(parts[name]);
process.exitCode = faults === 0 ? 0 : 1;

async function run(entry) {
  const outfile = join(import.meta.dirname, '../test-results', entry.replace('.ts', '.mjs'));
  mkdirSync(join(outfile, '..'), { recursive: true });
  await build({
    entryPoints: [join(import.meta.dirname, entry)],
    outfile,
    bundle: true,
    platform: 'node',
    target: 'node20',
    format: 'esm',
    external: ['dns-packet', 'papaparse', 'zod', 'ajv', 'ajv/*', 'pg', '@playwright/test', 'ws'],
    define: { 'import.meta.dirname': JSON.stringify(import.meta.dirname) },
    logLevel: 'warning',
  });
  return spawnSync(process.execPath, ['--expose-gc', outfile, ...numbers], { stdio: 'inherit' }).status === 0 ? 0 : 1;
}
