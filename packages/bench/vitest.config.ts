import { defineProject } from 'vitest/config';

export default defineProject({
  test: { name: 'bench', environment: 'node', isolate: false, include: ['src/**/*.test.ts'], testTimeout: 240_000 },
});
