import { DEMO_PASSWORD } from '@ladder/contract';
import { SELLERS, TEAMS } from '@ladder/demo/company/people.ts';
import pg from 'pg';
import { type BenchBook, startBenchCluster } from './book/benchBook.ts';
import { Caller } from './load/caller.ts';
import { inTurns, tellRatios } from './load/inTurns.ts';
import { serveOurs } from './load/processes.ts';

/*
 * A day over HTTP, of a seller whose team has a third of all deals, of that team for its manager, and the month of both, beside
 * the plainest statement that reads the open deals of the team.
 */

const SIZES = [10_000, 100_000];
const [SELLER] = SELLERS;
const [TEAM] = TEAMS;
const MANAGER = 'tomas@hollin-marsh.example';
const PLAIN = `select count(*), sum(value_minor) from deals where team_id = $1 and status = 'open'`;
const MONTH = 'from=2026-11-01&to=2026-11-30';

async function measureBook({ serverUrl, ownerUrl, openDeals }: BenchBook): Promise<void> {
  const client = new pg.Client({ connectionString: ownerUrl, options: '-c jit=off' });
  await client.connect();
  await client.query('vacuum analyze');
  const server = await serveOurs(serverUrl);
  const [seller, manager] = [new Caller(server.url), new Caller(server.url)];
  await seller.signIn(SELLER?.email ?? '', DEMO_PASSWORD);
  await manager.signIn(MANAGER, DEMO_PASSWORD);
  const rates = await inTurns([
    { name: 'plain', run: () => client.query(PLAIN, [TEAM?.id]) },
    { name: 'today of a seller', run: () => seller.read('/api/v1/today?limit=50') },
    { name: 'what is late', run: () => seller.read('/api/v1/today/late') },
    { name: 'month of a seller', run: () => seller.read(`/api/v1/today/calendar?${MONTH}`) },
    { name: 'today of a team', run: () => manager.read(`/api/v1/today?limit=50&team=${TEAM?.id}`) },
    { name: 'month of a team', run: () => manager.read(`/api/v1/today/calendar?${MONTH}&team=${TEAM?.id}`) },
  ]);
  tellRatios(`today at ${openDeals}`, rates, 'plain');
  for (const caller of [seller, manager]) caller.close();
  await server.stop();
  await client.end();
}

const cluster = await startBenchCluster();
try {
  for (const size of SIZES) await measureBook(await cluster.copyOf(size));
} finally {
  await cluster.stop();
}
