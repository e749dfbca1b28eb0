import { DEMO_PASSWORD } from '@ladder/contract';
import { ADMINISTRATOR } from '@ladder/demo/company/people.ts';
import { PROCESS_IDS } from '@ladder/demo/demoBook.ts';
import { SO_NOW_PARTS, SO_THEN_PARTS } from '@ladder/server/deals/repository/openBook.ts';
import pg from 'pg';
import { type BenchBook, BOOK_DAY, onCopies } from './book/benchBook.ts';
import { Caller } from './load/caller.ts';
import { inTurns, tellRatios } from './load/inTurns.ts';
import { serveOurs } from './load/processes.ts';

/*
 * Pages of a book, whole as they are asked over HTTP, beside the plainest statement over the same deals by the best index
 * for it; and the reduction that they stand on, as of now and as of a past day.
 */

const PROCESS = PROCESS_IDS.newBuild;
const PLAIN = `select stage_id, count(*), sum(value_minor) from deals where process_id = '${PROCESS}' and status = 'open' group by 1`;
const ONE_ROW = 'select * from deals where id = $1';
/** A server that has answered a few times only is slower. */
const OFTEN = { warming: 60, runs: 25 };
const daysAgo = (days: number): Date => new Date(BOOK_DAY - days * 86_400_000);
/** As of yesterday nearly all of today's deals were open, as of the other day a quarter. */
const PAST_DAYS = { yesterday: daysAgo(1), 'ninety days ago': daysAgo(90) };

/** What lanes, compliance and movement stand on: as they read it now, by the parts that have an index each, or as any past day is read. */
const reduction = (...parts: readonly string[]): string =>
  parts
    .map(
      (part) =>
        `select sum_key, count(*), sum(value_minor) from deal_states d where d.process_id = '${PROCESS}' and d.status = 'open' and ${part.replaceAll(':now', '$1')} group by 1`,
    )
    .join(' union all ');

async function measureBook(book: BenchBook): Promise<void> {
  // As the server's own sessions are.
  const options = '-c jit=off -c max_parallel_workers_per_gather=0';
  const client = new pg.Client({ connectionString: book.ownerUrl, options });
  await client.connect();
  await client.query(`create index plain on deals (process_id, stage_id) include (value_minor) where status = 'open'`);
  await client.query('vacuum analyze');
  const server = await serveOurs(book.serverUrl);
  const caller = new Caller(server.url);
  await caller.signIn(ADMINISTRATOR.email, DEMO_PASSWORD);
  const { items } = await caller.read<{ items: { id: string }[] }>(`/api/v1/deals?process=${PROCESS}&limit=1`);
  const deal = items[0]?.id ?? '';
  const read = (path: string) => () => caller.read(`/api/v1${path}`);
  const past = Object.entries(PAST_DAYS).flatMap(([name, day]) => [
    ...['lanes', 'compliance'].map((page) => ({
      name: `${page} ${name}`,
      run: read(`/processes/${PROCESS}/${page}?on=${day.toISOString().slice(0, 10)}`),
    })),
    { name: `reduction ${name}`, run: () => client.query(reduction(...SO_THEN_PARTS), [day]) },
  ]);
  const pages = await inTurns(
    [
      { name: 'plain', run: () => client.query(PLAIN) },
      { name: 'lanes', run: read(`/processes/${PROCESS}/lanes`) },
      { name: 'compliance', run: read(`/processes/${PROCESS}/compliance`) },
      { name: 'movement', run: read(`/processes/${PROCESS}/movement`) },
      { name: 'reduction now', run: () => client.query(reduction(...SO_NOW_PARTS), [new Date()]) },
      ...past,
    ],
    OFTEN,
  );
  tellRatios(`pages at ${book.openDeals}`, pages, 'plain');
  const row = await inTurns(
    [
      { name: 'one row', run: () => client.query(ONE_ROW, [deal]) },
      { name: 'deal', run: read(`/deals/${deal}`) },
      { name: 'table', run: read(`/deals?process=${PROCESS}&limit=50`) },
      { name: 'held', run: read(`/deals?process=${PROCESS}&limit=50&standing=held`) },
      { name: 'found, rare', run: read(`/deals?process=${PROCESS}&limit=50&find=zzyzx`) },
      { name: 'found, common', run: read(`/deals?process=${PROCESS}&limit=50&find=glass`) },
      { name: 'health', run: read('/health') },
    ],
    OFTEN,
  );
  tellRatios(`pages at ${book.openDeals}`, row, 'one row');
  caller.close();
  await server.stop();
  await client.end();
}

await onCopies(measureBook);
