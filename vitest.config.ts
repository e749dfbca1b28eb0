import { defineConfig } from 'vitest/config';

/** What replaces modules for the time of a test has them to itself. */
const ALONE = ['contract/src/requirements.test.ts'];

const common = {
  testTimeout: 120_000,
  hookTimeout: 240_000,
  setupFiles: ['./scripts/seedTests.mjs'],
  // Whatever a server of a test keeps of a deal is compared with what is there.
  env: { LADDER_CHECK_KEPT: 'yes' },
};

export default defineConfig({
  test: {
    pool: 'forks',
    maxWorkers: 2,
    projects: [
      {
        test: {
          ...common,
          name: 'together',
          include: ['{core,contract,server,web,demo,bench}/src/**/*.test.ts'],
          exclude: ALONE,
          globalSetup: ['./scripts/testCluster.mjs'],
          // Modules are loaded once for all files: loading them anew for each took a third of the whole run.
          isolate: false,
        },
      },
      { test: { ...common, name: 'alone', include: ALONE } },
    ],
  },
});
