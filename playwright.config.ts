import { defineConfig } from '@playwright/test';

// The workers are told which run's demo data are theirs.
process.env['CORVUN_E2E_RUN'] ??= String(process.pid);

/** Drives Debian's Chromium against the built application; each file starts a Corvun of its own. */
export default defineConfig({
  testDir: 'e2e',
  globalSetup: './e2e/makeTemplate.ts',
  testMatch: '**/*.e2e.ts',
  workers: 2,
  retries: 0,
  timeout: 150_000,
  expect: { timeout: 15_000 },
  reporter: [['list'], ['json', { outputFile: 'test-results/e2e.json' }]],
  use: {
    viewport: { width: 1280, height: 800 },
    launchOptions: {
      executablePath: process.env['CHROMIUM'] ?? '/usr/bin/chromium',
      args: [
        '--no-sandbox',
        '--disable-gpu',
        '--disable-quic',
        '--no-first-run',
        '--disable-background-networking',
        '--disable-component-update',
        '--disable-sync',
      ],
    },
  },
});
