import { defineProject } from 'vitest/config';
import { share } from '../../scripts/share-of-cases.mjs';

export default defineProject({
  test: {
    name: 'server',
    provide: { share },
    environment: 'node',
    isolate: false,
    include: ['src/**/*.test.ts'],
    globalSetup: ['./test/global-setup.ts'],
    testTimeout: 120_000,
    hookTimeout: 120_000,
  },
});
