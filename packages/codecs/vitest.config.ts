import { defineProject } from 'vitest/config';

export default defineProject({
  test: { name: 'codecs', environment: 'node', isolate: false, include: ['src/**/*.test.ts'], testTimeout: 120_000 },
});
