import { writeFileSync } from 'node:fs';
import { fileURLToPath } from 'node:url';
import { demoBook } from '@ladder/demo/demoBook.ts';
import { loadBook } from '@ladder/server/book/loadBook.ts';
import { createDataSource } from '@ladder/server/db/dataSource.ts';
import { startServer } from '@ladder/server/server.ts';
import { ensureDatabase, migrateDatabase } from '../../scripts/database.mjs';
import { startTestCluster } from '../../scripts/startTestCluster.mjs';

/** Tuesday 24 November 2026, ten in the morning in London; from there the clock goes on as ours does. */
const START = Date.UTC(2026, 10, 24, 10);
const began = Date.now();
const clock = { now: () => START + (Date.now() - began) };
const DATABASE = 'browser';
const DEALS = 300;

const cluster = await startTestCluster();
const admin = await createDataSource(cluster.ownerUrl('postgres'), 1).initialize();
await admin.query(`drop database if exists ${DATABASE} with (force)`);
await admin.destroy();
await ensureDatabase(cluster, DATABASE);
await migrateDatabase({
  DATABASE_URL: cluster.serverUrl(DATABASE),
  MIGRATION_DATABASE_URL: cluster.ownerUrl(DATABASE),
});
const dataSource = await createDataSource(cluster.serverUrl(DATABASE), 2).initialize();
await loadBook(dataSource, demoBook(clock.now(), { deals: DEALS }));
await dataSource.destroy();

if (process.env.LADDER_SERVER_PID) writeFileSync(process.env.LADDER_SERVER_PID, String(process.pid));
const webRoot = fileURLToPath(new URL('../../web/dist', import.meta.url));
const server = await startServer(
  {
    host: '127.0.0.1',
    port: Number(process.env.PORT),
    databaseUrl: cluster.serverUrl(DATABASE),
    webRoot,
    logLevel: 'warn',
    trustedProxies: [],
    sessionIdleMs: 24 * 3_600_000,
    documentMostBytes: 25_000_000,
  },
  clock,
);

for (const signal of ['SIGTERM', 'SIGINT'] as const) {
  process.once(signal, async () => {
    await server.stop();
    await cluster.stop();
    process.exit(0);
  });
}
