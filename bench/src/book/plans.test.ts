import { DEMO_PASSWORD, readBookPart, writeBookPart } from '@ladder/contract';
import { ADMINISTRATOR, PEOPLE, TEAMS } from '@ladder/demo/company/people.ts';
import { demoBook, PROCESS_IDS } from '@ladder/demo/demoBook.ts';
import { loadBook } from '@ladder/server/book/loadBook.ts';
import { createDataSource } from '@ladder/server/db/dataSource.ts';
import { type RunningServer, startServer } from '@ladder/server/server.ts';
import { Client } from '@ladder/server/testing/client.ts';
import { movableClock } from '@ladder/server/testing/movableClock.ts';
import { createTestDatabase, type TestDatabase } from '@ladder/server/testing/testDatabase.ts';
import { THREADS, testConfig } from '@ladder/server/testing/testServer.ts';
import pg from 'pg';
import type { Logger } from 'typeorm';
import { afterAll, beforeAll, expect, it } from 'vitest';
import { growBook } from './growBook.ts';

/*
 * What is asked for one deal or one page reads no more than that, however large the book: every statement that a press
 * sends is explained as it runs, over a book in which reading a table would show.
 */

const NOW = Date.UTC(2026, 10, 26, 9);
const PROCESS = PROCESS_IDS.newBuild;
const SELLER = PEOPLE.find(({ role }) => role === 'seller');
/** Tables that grow with the book. */
const GROWING = [
  'deals',
  'deal_heads',
  'deal_states',
  'findings',
  'visits',
  'moves',
  'journal',
  'journal_texts',
  'activities',
  'ticks',
  'refusals',
  'deal_stays',
  'step_runs',
  'tasks',
  'waivers',
  'documents',
];
/** A page of fifty, each with a few dozen rows of its own, is well below; the smallest of these tables is far above. */
const MOST_ROWS = 1_500;
/** Whoever adds up their own deals reads a few states of each: of the 600 that the seller sees. */
const MOST_OF_OWN = 600 * 6;

/** What making the book may take beside other tests, on processors that are slow. */
const MAKING_MS = 300_000;

const UNIQUE_VIOLATION = '23505';

let database: TestDatabase;
let server: RunningServer;
let owner: pg.Client;
let maren: Client;
let seller: Client;
let deal: { id: string; revision: number; values: Record<string, unknown> };
const sent: { text: string; values: unknown[] }[] = [];

function* parts() {
  for (const part of demoBook(NOW, { deals: 150 })) yield readBookPart(writeBookPart(part));
}

beforeAll(async () => {
  database = await createTestDatabase();
  const source = await createDataSource(database.serverUrl, 1).initialize();
  await loadBook(source, parts());
  await source.destroy();
  owner = new pg.Client({
    connectionString: database.ownerUrl,
    options: '-c jit=off -c max_parallel_workers_per_gather=0',
  });
  await owner.connect();
  await growBook(database.ownerUrl, { open: 200, others: 20 });
  server = await startServer(testConfig(database), movableClock(NOW), THREADS);
  for (const pool of [server.context.dataSource, server.context.commands])
    pool.setOptions({ logging: true, logger: listening() });
  maren = await Client.signIn(server.url, ADMINISTRATOR.email, DEMO_PASSWORD);
  seller = await Client.signIn(server.url, SELLER?.email ?? '', DEMO_PASSWORD);
  const { body } = await maren.get(`/deals?process=${PROCESS}&limit=1`);
  deal = (await maren.get(`/deals/${body.items[0].id}`)).body;
}, MAKING_MS);
afterAll(async () => {
  await server.stop();
  await owner.end();
  await database.drop();
});

function listening(): Logger {
  const nothing = (): void => undefined;
  return {
    logQuery: (text, values) => void sent.push({ text, values: Array.isArray(values) ? values : [] }),
    logQueryError: nothing,
    logQuerySlow: nothing,
    logSchemaBuild: nothing,
    logMigration: nothing,
    log: nothing,
  };
}

interface Plan {
  readonly 'Relation Name'?: string;
  readonly 'Index Name'?: string;
  readonly 'Node Type': string;
  readonly 'Actual Rows': number;
  readonly 'Actual Loops': number;
  readonly 'Rows Removed by Filter'?: number;
  readonly 'Rows Removed by Index Recheck'?: number;
  readonly Plans?: readonly Plan[];
}

const nodes = (plan: Plan): readonly Plan[] => [plan, ...(plan.Plans ?? []).flatMap(nodes)];

/** Where a statement reads more of a growing table than a page of it. */
async function heavyReads(
  { text, values }: { text: string; values: unknown[] },
  most: number,
): Promise<readonly string[]> {
  if (!/^\s*(\/\*.*?\*\/)?\s*(select|with|insert|update|delete)/i.test(text)) return [];
  await owner.query('begin');
  try {
    const { rows } = await owner.query(`explain (analyze, format json) ${text}`, values);
    const plan: Plan = rows[0]['QUERY PLAN'][0].Plan;
    return nodes(plan).flatMap((node) => {
      const table = node['Relation Name'];
      const removed = (node['Rows Removed by Filter'] ?? 0) + (node['Rows Removed by Index Recheck'] ?? 0);
      const read = (node['Actual Rows'] + removed) * node['Actual Loops'];
      return table && GROWING.includes(table) && read > most
        ? [`${read} rows of ${table} by ${node['Index Name'] ?? node['Node Type']}`]
        : [];
    });
  } catch (error) {
    // What made a row under an id of its own has made it: it looked for nothing.
    if (error instanceof pg.DatabaseError && error.code === UNIQUE_VIOLATION) return [];
    throw error;
  } finally {
    await owner.query('rollback');
  }
}

const edit = (field: string, value: unknown) => ({ changes: [{ field, saw: deal.values[field] ?? null, value }] });
const PRESSES: readonly (readonly [string, () => Promise<unknown>])[] = [
  ['the page of a deal', () => maren.get(`/deals/${deal.id}`)],
  ['its journal', () => maren.get(`/deals/${deal.id}/journal`)],
  ['an edit', () => maren.patch(`/deals/${deal.id}`, edit('energy_use', 12))],
  ['a note', () => maren.post(`/deals/${deal.id}/activities`, { kind: 'note', text: 'Said' }, 201)],
  [
    'a move, whatever its answer',
    () =>
      maren.send(
        'POST',
        `/deals/${deal.id}/moves`,
        { target: { to: 'outcome', outcome: 'lost' }, revision: deal.revision },
        0,
      ),
  ],
  ['a page of the table', () => maren.get(`/deals?process=${PROCESS}&limit=50`)],
  ['a page of those that won', () => maren.get(`/deals?process=${PROCESS}&status=won&limit=50`)],
  ['a page of a team', () => maren.get(`/deals?process=${PROCESS}&team=${TEAMS[0]?.id}&limit=50`)],
  ['a page of findings', () => maren.get(`/processes/${PROCESS}/findings?limit=50`)],
  ['a page of an owner', () => maren.get(`/deals?owner=${PEOPLE[2]?.id}&limit=50`)],
  ['a page of all processes', () => maren.get('/deals?limit=50')],
  ['a word that no deal has', () => maren.get(`/deals?process=${PROCESS}&find=zzyzxq&limit=50`)],
];
const OF_OWN: typeof PRESSES = [
  ['the lanes of a seller', () => seller.get(`/processes/${PROCESS}/lanes`)],
  ['the compliance of a seller’s team', () => seller.get(`/processes/${PROCESS}/compliance`)],
];

it.each([
  ...PRESSES.map(([name, press]) => [name, press, MOST_ROWS] as const),
  ...OF_OWN.map(([name, press]) => [name, press, MOST_OF_OWN] as const),
])('%s reads no more than it shows', async (_name, press, most) => {
  sent.length = 0;
  await press();
  expect(sent.length).toBeGreaterThan(1);
  const heavy: string[] = [];
  for (const statement of [...sent]) heavy.push(...(await heavyReads(statement, most)));
  expect(heavy).toEqual([]);
});

it('a statement that has no index would be found', async () => {
  const whole = { text: 'select * from deals where currency = $1', values: ['XXX'] };
  expect(await heavyReads(whole, MOST_ROWS)).toHaveLength(1);
});

/** How often rows of a table were rewritten, and how often in their place, so that no index was touched. */
async function rewritten(table: string): Promise<{ readonly all: number; readonly inPlace: number }> {
  const { rows } = await owner.query(
    'select n_tup_upd::int as "all", n_tup_hot_upd::int as "inPlace" from pg_stat_user_tables where relname = $1',
    [table],
  );
  return rows[0];
}

/** Open deals of which each stands in a page of its own, so that there is room beside it whatever else is going on. */
async function dealsApart(count: number): Promise<string[]> {
  const { rows } = await owner.query(
    `select id from (
       select distinct on ((ctid::text::point)[0]) id from deals where process_id = $1 and status = 'open'
     ) one_a_page order by md5(id::text) limit $2`,
    [PROCESS, count],
  );
  return rows.map(({ id }) => id);
}

it('edits and moves mostly rewrite a deal’s row and its head in their place', async () => {
  const edited = await dealsApart(20);
  const moved = (await dealsApart(40)).slice(20);
  const tables = ['deals', 'deal_heads'];
  const before = await Promise.all(tables.map(rewritten));
  for (const id of edited) {
    const { body: seen } = await maren.get(`/deals/${id}`);
    const saw = seen.values.energy_use ?? null;
    await maren.patch(`/deals/${id}`, { changes: [{ field: 'energy_use', saw, value: 77 }] });
  }
  for (const id of moved) {
    const { body: seen } = await maren.get(`/deals/${id}`);
    const stages: readonly { id: string }[] = seen.setting.told.document.stages;
    const target = { to: 'stage', stage: stages.find((one) => one.id !== seen.stage)?.id };
    const move = { target, revision: seen.revision, mode: 'force', text: 'So it was' };
    await maren.post(`/deals/${id}/moves`, move, 200);
  }
  for (const [place, table] of tables.entries()) {
    const was = before[place] ?? { all: 0, inPlace: 0 };
    const since = async () => (await rewritten(table)).all - was.all;
    await expect.poll(since, { timeout: 10_000 }).toBeGreaterThanOrEqual(edited.length + moved.length);
    const { all, inPlace } = await rewritten(table);
    expect((inPlace - was.inPlace) / (all - was.all)).toBeGreaterThan(0.8);
  }
});
