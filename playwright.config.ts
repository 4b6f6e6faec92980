import { defineConfig } from '@playwright/test';
import { headless } from './testing/chromium';

/** Drives Debian's Chromium against the built application; each file starts a Corvun of its own. */
export default defineConfig({
  testDir: 'e2e',
  globalSetup: './scripts/templates.mjs',
  testMatch: '**/*.e2e.ts',
  workers: 3,
  retries: 0,
  timeout: 150_000,
  expect: { timeout: 30_000 },
  reporter: [['list'], ['json', { outputFile: 'test-results/e2e.json' }]],
  use: {
    viewport: { width: 1280, height: 800 },
    contextOptions: { reducedMotion: 'reduce' },
    launchOptions: {
      executablePath: headless(),
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
