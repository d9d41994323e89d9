import { defineConfig } from '@playwright/test';
import { CHROMIUM } from '../scripts/lib/browser.mjs';

/** The real interface in Debian's Chromium, against real processes; see `folvex.ts`. */
export default defineConfig({
  testDir: '.',
  globalSetup: './build.ts',
  outputDir: '../test-results',
  // A project each with an instance of its own: they do not disturb each other.
  workers: 2,
  fullyParallel: false,
  // Patience, not a measure: small machines are slow at times.
  timeout: 600_000,
  expect: { timeout: 120_000 },
  forbidOnly: true,
  // A project each, so that each file begins with the demo as it was.
  // The longest first, so that both workers end at about the same time.
  projects: [
    'pictures',
    'pens',
    'accessible',
    'publishing',
    'package',
    'delivery',
    'settings',
    'own-drawing',
    'manage',
    'sheet',
    'keyboard',
    'issues',
    'gather',
    'light-table',
    'gestures',
    'mail',
    'recipient-files',
    'plot',
    'transfer',
    'inbox',
    'office',
  ].map((name) => ({
    name,
    testMatch: `${name}.e2e.ts`,
  })),
  use: { viewport: { width: 1280, height: 800 }, launchOptions: CHROMIUM, acceptDownloads: true },
});
