import { defineConfig, devices } from '@playwright/test';
import { findChromium } from '../scripts/chromium.mjs';

/** Free ones where `npm test` runs the tests; always the same where they are run by hand. */
const PORTS = (process.env.LADDER_PORTS ?? '4611,4612').split(',');
/** Of the company whose clock a test moves, and of that clock. */
const DAY_PORTS = (process.env.LADDER_DAY_PORTS ?? '4613,4614').split(',');
/** Of the worker that this is read in. */
const PORT = PORTS[Number(process.env.TEST_PARALLEL_INDEX ?? 0)];

/** Each worker has a demo company of its own; its tests share it and change it, each on deals of its own. */
export default defineConfig({
  testDir: './src',
  outputDir: './test-results',
  workers: PORTS.length,
  // Processors that others use too stand still for half a minute at times.
  timeout: 300_000,
  expect: { timeout: 60_000 },
  reporter: [['list'], ['json', { outputFile: './test-results/results.json' }]],
  use: {
    ...devices['Desktop Chrome'],
    baseURL: `http://127.0.0.1:${PORT}`,
    viewport: { width: 1280, height: 800 },
    // What fades in is measured, and pressed, as it will stand.
    contextOptions: { reducedMotion: 'reduce' },
    trace: 'off',
    launchOptions: {
      executablePath: findChromium(),
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
  webServer: {
    command: 'node --import tsx src/serve.ts',
    url: `http://127.0.0.1:${PORTS.at(-1)}/api/v1/health`,
    env: { PORTS: PORTS.join(','), DAY_PORTS: DAY_PORTS.join(',') },
    timeout: 180_000,
    gracefulShutdown: { signal: 'SIGTERM', timeout: 15_000 },
    stdout: 'ignore',
  },
});
