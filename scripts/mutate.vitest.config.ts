import { fileURLToPath } from 'node:url';
import { defineConfig } from 'vitest/config';

const packageAt = (path: string) => fileURLToPath(new URL(`../packages/${path}`, import.meta.url));

/** Who is asked when something of a package changes; tests of minutes are left to `npm test`. */
const judges: Readonly<Record<string, readonly string[]>> = {
  core: ['core/src/**/*', 'demo/src/**/*', 'bench/src/rigs/regressions', 'bench/src/rigs/random-rigs'],
  codecs: ['codecs/src/**/*', 'bench/src/protocols/**/*', 'bench/src/ether/*'],
  bench: ['bench/src/**/*'],
};

export default defineConfig({
  // the copy that is mutated is tested, not the packages that node_modules points at
  resolve: {
    alias: [
      { find: /^@deep-patch\/(\w+)$/, replacement: packageAt('$1/src/index.ts') },
      { find: /^@deep-patch\/demo\/rigs$/, replacement: packageAt('demo/src/rigs/index.test-data.ts') },
      { find: /^@deep-patch\/bench\/rigs$/, replacement: packageAt('bench/src/rigs/rigs.test-data.ts') },
    ],
  },
  test: {
    environment: 'node',
    include: (judges[process.env['MUTATE'] ?? ''] ?? []).map((files) => `packages/${files}.test.ts`),
    exclude: ['**/fixes.test.ts', '**/faults-on-rigs.test.ts'],
    testTimeout: 60_000,
  },
});
