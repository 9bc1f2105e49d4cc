import { spawnSync } from 'node:child_process';
import { mkdtempSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import type { TestProject } from 'vitest/node';
import { FAST, startPostgres, stopPostgres } from '../../../scripts/pg.mjs';

/** One cluster for all files, and the bench's own process as it is shipped. */
export default async function setup(project: TestProject) {
  if (process.env['DEEP_PATCH_BUILT'] === undefined) build();
  const dir = mkdtempSync(join(tmpdir(), 'deep-patch-pg-'));
  const { keeperUrl, secretUrl } = await startPostgres(dir, { settings: FAST });
  project.provide('keeperUrl', keeperUrl);
  project.provide('databaseUrl', secretUrl);
  return () => stopPostgres(dir, { remove: true });
}

function build(): void {
  const built = spawnSync(process.execPath, ['build.mjs'], { cwd: join(import.meta.dirname, '..'), encoding: 'utf8' });
  if (built.status !== 0) throw new Error(built.stderr);
}

declare module 'vitest' {
  export interface ProvidedContext {
    /** May make databases. */
    keeperUrl: string;
    databaseUrl: string;
  }
}
