import { defineConfig } from 'vitest/config';

export default defineConfig({
  test: {
    include: ['{core,contract,server,web,demo,bench}/src/**/*.test.ts'],
    testTimeout: 60_000,
    hookTimeout: 120_000,
    globalSetup: ['./scripts/testCluster.mjs'],
    pool: 'forks',
    maxWorkers: 2,
  },
});
