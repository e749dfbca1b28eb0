import { writeFileSync } from 'node:fs';
import { createServer } from 'node:http';
import { fileURLToPath } from 'node:url';
import { demoBook } from '@ladder/demo/demoBook.ts';
import { loadBook } from '@ladder/server/book/loadBook.ts';
import { createDataSource } from '@ladder/server/db/dataSource.ts';
import { startServer } from '@ladder/server/server.ts';
import { startThreads } from '@ladder/server/threads.ts';
import { ensureDatabase, migrateDatabase } from '../../scripts/database.mjs';
import { startTestCluster } from '../../scripts/startTestCluster.mjs';

/** Tuesday 24 November 2026, ten in the morning in London; from there the clock goes on as ours does. */
const START = Date.UTC(2026, 10, 24, 10);
const began = Date.now();
const clock = { now: () => START + (Date.now() - began) };
/** The clock of one company alone can be moved on, so that what comes with time can be waited for. */
let passed = 0;
const movableClock = { now: () => clock.now() + passed };
const DEALS = 300;
const PORTS = (process.env.PORTS ?? '').split(',').map(Number);
const [DAY_PORT = 0, CLOCK_PORT = 0] = (process.env.DAY_PORTS ?? '').split(',').map(Number);
const FIRST = 'browser_day';
const OTHERS = PORTS.map((_port, place) => `browser_${place}`);

const cluster = await startTestCluster();

/** One company is made, the others are copies of it. */
async function makeCompanies(): Promise<void> {
  const admin = await createDataSource(cluster.ownerUrl('postgres'), 1).initialize();
  for (const name of [FIRST, ...OTHERS]) await admin.query(`drop database if exists ${name} with (force)`);
  await ensureDatabase(cluster, FIRST);
  await migrateDatabase({
    DATABASE_URL: cluster.serverUrl(FIRST),
    MIGRATION_DATABASE_URL: cluster.ownerUrl(FIRST),
  });
  const dataSource = await createDataSource(cluster.serverUrl(FIRST), 2).initialize();
  await loadBook(dataSource, demoBook(clock.now(), { deals: DEALS }));
  await dataSource.destroy();
  for (const name of OTHERS) await admin.query(`create database ${name} template ${FIRST}`);
  await admin.destroy();
}

await makeCompanies();
if (process.env.LADDER_SERVER_PID) writeFileSync(process.env.LADDER_SERVER_PID, String(process.pid));
const webRoot = fileURLToPath(new URL('../../web/dist', import.meta.url));
const threads = startThreads(1);
const servers = await Promise.all(
  [FIRST, ...OTHERS].map((name, place) =>
    startServer(
      {
        host: '127.0.0.1',
        port: name === FIRST ? DAY_PORT : (PORTS[place - 1] ?? 0),
        databaseUrl: cluster.serverUrl(name),
        webRoot,
        logLevel: 'warn',
        trustedProxies: [],
        sessionIdleMs: 24 * 3_600_000,
        documentMostBytes: 25_000_000,
        mail: { smtpUrl: null, from: 'Hollin & Marsh <ladder@hollin-marsh.example>' },
      },
      name === FIRST ? movableClock : clock,
      threads,
    ),
  ),
);

const clockControl = createServer((request, response) => {
  passed += Number(new URL(request.url ?? '', 'http://localhost').searchParams.get('ms') ?? 0);
  response.end();
}).listen(CLOCK_PORT, '127.0.0.1');

for (const signal of ['SIGTERM', 'SIGINT'] as const) {
  process.once(signal, async () => {
    clockControl.close();
    await Promise.all(servers.map((server) => server.stop()));
    await threads.stop();
    await cluster.stop();
    process.exit(0);
  });
}
