import { defineConfig } from '@playwright/test';

const port = 3110;

export default defineConfig({
  testDir: './e2e',
  outputDir: './test-results',
  workers: 1,
  // A machine that others use stalls for many seconds; what is right is only late there.
  timeout: 360_000,
  expect: { timeout: 60_000 },
  reporter: [['list'], ['json', { outputFile: 'test-results/journeys.json' }]],
  use: {
    baseURL: `http://127.0.0.1:${port}`,
    viewport: { width: 1280, height: 800 },
    trace: 'retain-on-failure',
    launchOptions: {
      executablePath: process.env.CHROMIUM_PATH ?? '/usr/bin/chromium',
      args: [
        '--no-sandbox',
        '--disable-gpu',
        '--disable-quic',
        '--no-first-run',
        '--disable-background-networking',
        '--disable-component-update',
        '--disable-sync',
        '--host-resolver-rules=MAP * ~NOTFOUND, EXCLUDE 127.0.0.1',
      ],
    },
  },
  webServer: {
    command: `node scripts/start.mjs --demo --reset --port ${port} --data ./.furrow-e2e`,
    url: `http://127.0.0.1:${port}/api/health`,
    timeout: 120_000,
    reuseExistingServer: false,
    stdout: 'pipe',
    gracefulShutdown: { signal: 'SIGTERM', timeout: 8_000 },
  },
});
