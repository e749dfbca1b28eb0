import { DEMO_PASSWORD } from '@ladder/contract';
import { PROCESS_IDS } from '@ladder/demo/demoBook.ts';
import { systemClock } from '@ladder/server/clock.ts';
import { readConfig } from '@ladder/server/config.ts';
import { startServer } from '@ladder/server/server.ts';
import { startBenchCluster } from './book/benchBook.ts';
import { Caller } from './load/caller.ts';

const c = await startBenchCluster();
const size = Number(process.argv[2] ?? 100000);
const book = await c.book(size);
console.log(book.ownerUrl);
const server = await startServer(
  readConfig({ DATABASE_URL: book.serverUrl, PORT: '0', LOG_LEVEL: 'fatal' } as never),
  systemClock,
);
const n = () => undefined;
for (const pool of [server.context.dataSource, server.context.commands, server.context.longWork])
  pool.setOptions({
    maxQueryExecutionTime: 1,
    logging: true,
    logger: {
      logQuery: n,
      logQueryError: n,
      logQuerySlow: (t: number, q: string) => console.log('   ', t, 'ms', q.replace(/\s+/g, ' ').slice(0, 150)),
      logSchemaBuild: n,
      logMigration: n,
      log: n,
    } as never,
  });
const caller = new Caller(server.url);
await caller.signIn('maren@hollin-marsh.example', DEMO_PASSWORD);
const P = PROCESS_IDS.newBuild;
for (const path of [
  `/processes/${P}/lanes`,
  `/processes/${P}/compliance`,
  `/processes/${P}/movement`,
  `/deals?process=${P}&limit=50`,
  `/deals?process=${P}&limit=50&standing=held`,
]) {
  for (let i = 0; i < 3; i++) {
    console.log(path);
    const b = performance.now();
    await caller.read(`/api/v1${path}`);
    console.log('total', (performance.now() - b).toFixed(0));
  }
}
await server.stop();
if (process.argv[3]) await new Promise((r) => setTimeout(r, Number(process.argv[3]) * 1000));
await c.stop();
process.exit(0);
