import { BANK } from './e2e/place';
import { defineConfig } from '@playwright/test';

const port = Number(process.env.E2E_PORT ?? 4310);

/** What ends processes of the bank, and what listens for gaps in sound, wants the machine for itself. */
const ALONE = /(lasting|player)\.spec\.ts$/;

/** A whole Zeitbank with the demo scenario, driven through Debian's Chromium. */
export default defineConfig({
  testDir: 'e2e',
  // Much of the time is spent listening, as people do: two can listen at once.
  workers: 2,
  fullyParallel: false,
  projects: [
    // On a loaded machine a sound card that is none can pause for half a minute: a test may try
    // once more and is then named as flaky. What kills processes may not: there, once is a loss.
    { name: 'together', testIgnore: ALONE, retries: 1 },
    { name: 'alone', testMatch: ALONE, workers: 1, dependencies: ['together'] },
  ],
  forbidOnly: true,
  retries: 0,
  // A loaded machine takes twice as long as a quiet one; no time is asserted anywhere.
  timeout: 240_000,
  expect: { timeout: 45_000 },
  reporter: process.env.E2E_REPORT
    ? [['list'], ['json', { outputFile: process.env.E2E_REPORT }]]
    : 'list',
  use: {
    baseURL: `http://127.0.0.1:${port}`,
    viewport: { width: 1280, height: 800 },
    acceptDownloads: true,
    launchOptions: {
      executablePath: '/usr/bin/chromium',
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
  webServer: {
    command: 'node dist/services/supervisor.mjs',
    url: `http://127.0.0.1:${port}/sign-in`,
    timeout: 360_000,
    reuseExistingServer: false,
    gracefulShutdown: { signal: 'SIGTERM', timeout: 10_000 },
    stdout: 'ignore',
    env: {
      PORT: String(port),
      ZEITBANK_MODE: 'demo',
      ZEITBANK_ROOT: __dirname,
      ZEITBANK_DATA: BANK,
      // A machine that browsers keep busy answers late, and a page that gave up shows what was before.
      DATABASE_WAIT_MS: '30000',
    },
  },
});
