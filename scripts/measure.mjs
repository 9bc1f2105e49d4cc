// Bundles what is measured as it ships, without the helpers of the development loader, and runs it.
import { spawnSync } from 'node:child_process';
import { mkdirSync } from 'node:fs';
import { join } from 'node:path';
import { build } from 'esbuild';

// `npm run measure -- rigs` compares forecast and bench on random rigs for as long as it takes
const [wanted = 'all', ...rest] = process.argv.slice(2);
const entry = wanted === 'rigs' ? 'measure-rigs.ts' : wanted === 'all' ? 'measure.ts' : wanted;
const outfile = join(import.meta.dirname, '../test-results/measure.mjs');
mkdirSync(join(outfile, '..'), { recursive: true });
await build({
  entryPoints: [join(import.meta.dirname, entry)],
  outfile,
  bundle: true,
  platform: 'node',
  target: 'node20',
  format: 'esm',
  external: ['dns-packet', 'papaparse', 'zod'],
  define: { 'import.meta.dirname': JSON.stringify(import.meta.dirname) },
  logLevel: 'warning',
});
process.exitCode = spawnSync(process.execPath, ['--expose-gc', outfile, ...rest], { stdio: 'inherit' }).status ?? 1;
