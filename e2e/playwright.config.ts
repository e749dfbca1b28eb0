import { defineConfig, devices } from '@playwright/test';

/** A free one where `npm test` runs the tests; always the same where they are run by hand. */
const PORT = Number(process.env.LADDER_PORT ?? 4611);

/** One worker: the tests share one demo company and change it, each on deals of its own. */
export default defineConfig({
  testDir: './src',
  outputDir: './test-results',
  workers: 1,
  timeout: 120_000,
  expect: { timeout: 20_000 },
  reporter: [['list'], ['json', { outputFile: './test-results/results.json' }]],
  use: {
    ...devices['Desktop Chrome'],
    baseURL: `http://127.0.0.1:${PORT}`,
    viewport: { width: 1280, height: 800 },
    // What fades in is measured, and pressed, as it will stand.
    contextOptions: { reducedMotion: 'reduce' },
    trace: 'off',
    launchOptions: {
      executablePath: process.env.CHROMIUM ?? '/usr/bin/chromium',
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
    url: `http://127.0.0.1:${PORT}/api/v1/health`,
    env: { PORT: String(PORT) },
    timeout: 180_000,
    gracefulShutdown: { signal: 'SIGTERM', timeout: 15_000 },
    stdout: 'ignore',
  },
});
