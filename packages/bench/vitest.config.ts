import { defineProject } from 'vitest/config';
import { share } from '../../scripts/share-of-cases.mjs';

export default defineProject({
  test: {
    name: 'bench',
    provide: { share },
    environment: 'node',
    isolate: false,
    include: ['src/**/*.test.ts'],
    testTimeout: 240_000,
  },
});
