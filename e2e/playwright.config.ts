import { defineConfig } from '@playwright/test';

/** How long something is waited for that does not come about, ms. Who writes a journey sets INKWELL_PATIENCE, to be told sooner. */
const PATIENCE = Number(process.env['INKWELL_PATIENCE'] ?? 300_000);

export default defineConfig({
  testDir: '.',
  testMatch: '*.spec.ts',
  // Files beside each other, what is in one file after each other.
  workers: 3,
  fullyParallel: false,
  // How long something takes is asked in benchmarks; here, on a machine that others share, only whether it comes about.
  expect: { timeout: PATIENCE },
  // Above what single steps may wait for, so that it is a step that says what did not come about.
  timeout: 1_200_000,
  reporter: [['list'], ['json']],
  // A folder of each run: two of them may run at once.
  outputDir: `${process.env['INKWELL_RUN'] ?? '../.tmp'}/e2e`,
  use: {
    // A click or a key that finds nothing to land on says so as soon as an expectation would.
    actionTimeout: PATIENCE,
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
