import { defineProject } from 'vitest/config';

export default defineProject({
  test: { name: 'house', environment: 'node', include: ['**/*.test.ts'], testTimeout: 20_000 },
});
