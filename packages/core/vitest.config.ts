import { defineProject } from 'vitest/config';

export default defineProject({
  test: { name: 'core', environment: 'node', isolate: false, include: ['src/**/*.test.ts'], testTimeout: 120_000 },
});
