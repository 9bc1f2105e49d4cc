// Bundles what is measured as it ships, without the helpers of the development loader, and runs it.
import { spawnSync } from 'node:child_process';
import { mkdirSync } from 'node:fs';
import { join } from 'node:path';
import { build } from 'esbuild';

const entry = process.argv[2] ?? 'measure.ts';
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
process.exitCode = spawnSync(process.execPath, ['--expose-gc', outfile], { stdio: 'inherit' }).status ?? 1;
