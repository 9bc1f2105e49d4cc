import { defineConfig } from '@playwright/test';
import { browserPath } from './scripts/browser.mjs';

const port = Number(process.env['E2E_PORT'] ?? 4188);

export default defineConfig({
  testDir: './e2e',
  outputDir: './test-results',
  fullyParallel: true,
  workers: 2,
  // a busy machine is several times slower than a quiet one; a hung test still ends
  timeout: 300_000,
  expect: { timeout: 60_000 },
  forbidOnly: Boolean(process.env['CI']),
  reporter: [['list'], ['json', { outputFile: 'test-results/e2e.json' }]],
  use: {
    baseURL: `http://127.0.0.1:${port}`,
    viewport: { width: 1280, height: 800 },
    locale: 'en-GB',
    timezoneId: 'UTC',
    contextOptions: { reducedMotion: 'reduce' },
    trace: 'off',
    launchOptions: {
      executablePath: browserPath,
      chromiumSandbox: false, // root cannot use the sandbox
      args: [
        '--disable-gpu',
        '--disable-quic',
        '--no-first-run',
        '--disable-background-networking',
        '--disable-component-update',
        '--disable-sync',
        '--font-render-hinting=none',
      ],
    },
  },
  projects: [{ name: 'chromium' }],
  webServer: {
    command: 'node scripts/e2e-server.mjs',
    env: { PORT: String(port) },
    url: `http://127.0.0.1:${port}/api/health`,
    reuseExistingServer: false,
    timeout: 60_000,
    stdout: 'ignore',
    stderr: 'pipe',
    gracefulShutdown: { signal: 'SIGTERM', timeout: 10_000 },
  },
});
