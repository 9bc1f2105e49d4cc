import { readFile } from 'node:fs/promises';
import { build } from 'esbuild';

const packages = await Promise.all(
  ['.', '../codecs', '../bench', '../core', '../demo'].map(async (dir) =>
    JSON.parse(await readFile(new URL(`${dir}/package.json`, import.meta.url), 'utf8')),
  ),
);
const external = packages
  .flatMap((pkg) => Object.keys(pkg.dependencies ?? {}))
  .filter((name) => !name.startsWith('@deep-patch/'));

await build({
  absWorkingDir: import.meta.dirname,
  entryPoints: { main: 'src/main.ts', bench: '../bench/src/main.ts', reader: 'src/shows/change-reader.worker.ts' },
  outdir: 'dist',
  bundle: true,
  platform: 'node',
  target: 'node20',
  format: 'esm',
  sourcemap: true,
  // not packages: 'external' -- that would leave the workspace packages imports of .ts files
  external: external.flatMap((name) => [name, `${name}/*`]),
  logLevel: 'warning',
});
