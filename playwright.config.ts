import { defineConfig } from '@playwright/test';
import { CHROMIUM, CHROMIUM_ARGS } from './tests/support/chromium';
import { SESSION_FILE } from './tests/support/session-file';

/** bin/test starts the server with data of its own and says where it is, with a key. */
export default defineConfig({
  testDir: 'tests/browser',
  globalSetup: './tests/browser/come-in.ts',
  // Each test makes what it needs (`openNew`): two browsers do not meet.
  workers: 2,
  // A machine that is busy with other work is no fault.
  timeout: 300_000,
  expect: { timeout: 90_000 },
  reporter: [['list'], ['json']],
  outputDir: 'test-results',
  use: {
    baseURL: new URL(process.env.OMAGGIO_URL ?? 'http://127.0.0.1:3000').origin,
    storageState: SESSION_FILE,
    viewport: { width: 1280, height: 800 },
    acceptDownloads: true,
    launchOptions: {
      executablePath: CHROMIUM,
      args: CHROMIUM_ARGS,
    },
  },
});
