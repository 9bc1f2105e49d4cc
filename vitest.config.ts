import { defineConfig } from 'vitest/config';

export default defineConfig({
  test: {
    projects: ['packages/*/vitest.config.ts', 'scripts/vitest.config.ts'],
    // by itself it leaves one core to somebody who looks on
    maxWorkers: '100%',
  },
});
