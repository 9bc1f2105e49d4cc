import { defineProject } from 'vitest/config';
import { share } from '../../scripts/share-of-cases.mjs';

export default defineProject({
  test: {
    name: 'core',
    provide: { share },
    environment: 'node',
    isolate: false,
    include: ['src/**/*.test.ts'],
    testTimeout: 120_000,
  },
});
