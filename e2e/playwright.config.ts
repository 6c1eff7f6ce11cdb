import { defineConfig } from '@playwright/test';

export default defineConfig({
  testDir: '.',
  testMatch: '*.spec.ts',
  workers: 1,
  fullyParallel: false,
  timeout: 60_000,
  expect: { timeout: 15_000 },
  reporter: [['list'], ['json']],
  outputDir: '../.tmp/e2e',
  use: {
    viewport: { width: 1280, height: 800 },
    reducedMotion: 'reduce',
    launchOptions: {
      executablePath: process.env['CHROMIUM'] ?? '/usr/bin/chromium',
      args: [
        '--no-sandbox',
        '--disable-gpu',
        '--disable-background-networking',
        '--disable-component-update',
        '--disable-sync',
        '--no-first-run',
      ],
    },
  },
});
