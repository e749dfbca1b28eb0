import { readBookPart, writeBookPart } from '@ladder/contract';
import { demoBook } from '@ladder/demo/demoBook.ts';
import { loadBook } from '@ladder/server/book/loadBook.ts';
import { createDataSource } from '@ladder/server/db/dataSource.ts';
import { migrations } from '@ladder/server/db/migrations/index.ts';
import pg from 'pg';
import { ensureDatabase, migrateDatabase } from '../../../scripts/database.mjs';
import { startTestCluster } from '../../../scripts/startTestCluster.mjs';
import { type Copies, growBook } from './growBook.ts';

/** Open deals of the books that a benchmark runs on, told otherwise by the environment's variable of that name. */
export const SIZES = (process.env.SIZES ?? '10000,100000').split(',').map(Number);
/** So many deals are lived; larger books are copies of them. */
const LIVED = 1_000;
/** The instant that the book was lived up to: benchmarks run at it. */
export const BOOK_DAY = Date.UTC(2026, 10, 26, 9);

export interface BenchBook {
  readonly serverUrl: string;
  readonly ownerUrl: string;
  readonly openDeals: number;
}

export interface BenchCluster {
  /** A book of at least so many open deals, made where it is not there from an earlier run. */
  readonly book: (openDeals: number) => Promise<BenchBook>;
  /** A copy of a book, to be changed and thrown away. */
  readonly copyOf: (openDeals: number) => Promise<BenchBook>;
  readonly stop: () => Promise<void>;
}

export async function startBenchCluster(): Promise<BenchCluster> {
  const cluster = await startTestCluster();
  const named = (name: string, openDeals: number): BenchBook => ({
    serverUrl: cluster.serverUrl(name),
    ownerUrl: cluster.ownerUrl(name),
    openDeals,
  });
  const nameOf = (what: number | string): string => `bench_${migrations.length}_${what}`;
  const lived = (): Promise<string> =>
    madeOnce(cluster, nameOf('lived'), async (name) => {
      await ensureDatabase(cluster, name);
      const urls = { DATABASE_URL: cluster.serverUrl(name), MIGRATION_DATABASE_URL: cluster.ownerUrl(name) };
      await migrateDatabase(urls);
      await live(urls.DATABASE_URL);
    });
  const book = async (openDeals: number): Promise<BenchBook> => {
    const name = await madeOnce(cluster, nameOf(openDeals), async (made) => {
      await makeFrom(cluster, await lived(), made);
      await growBook(cluster.ownerUrl(made), await copiesFor(cluster.ownerUrl(made), openDeals));
    });
    return named(name, openDeals);
  };
  const copyOf = async (openDeals: number): Promise<BenchBook> => {
    const { ownerUrl } = await book(openDeals);
    const name = `${nameOf(openDeals)}_copy`;
    await makeFrom(cluster, new URL(ownerUrl).pathname.slice(1), name);
    return named(name, openDeals);
  };
  return { book, copyOf, stop: cluster.stop };
}

/** Measures a copy of a book of each size. */
export async function onCopies(measure: (book: BenchBook) => Promise<void>): Promise<void> {
  const cluster = await startBenchCluster();
  try {
    for (const size of SIZES) await measure(await cluster.copyOf(size));
  } finally {
    await cluster.stop();
  }
}

type Cluster = Awaited<ReturnType<typeof startTestCluster>>;

/** Makes a database once a schema, under another name until it is whole. Gives its name. */
async function madeOnce(cluster: Cluster, name: string, make: (name: string) => Promise<unknown>): Promise<string> {
  const isThere = await asOwner(cluster.ownerUrl('postgres'), async (client) => {
    const { rowCount } = await client.query('select from pg_database where datname = $1', [name]);
    return rowCount === 1;
  });
  if (isThere) return name;
  const making = `${name}_making`;
  await asOwner(cluster.ownerUrl('postgres'), (client) =>
    client.query(`drop database if exists ${making} with (force)`),
  );
  await make(making);
  await asOwner(cluster.ownerUrl('postgres'), (client) => client.query(`alter database ${making} rename to ${name}`));
  return name;
}

/** Makes a database as another one is, in place of one of that name. */
const makeFrom = (cluster: Cluster, template: string, name: string): Promise<void> =>
  asOwner(cluster.ownerUrl('postgres'), async (client) => {
    await client.query(`drop database if exists ${name} with (force)`);
    await client.query(`create database ${name} template ${template}`);
  });

async function asOwner<T>(url: string, work: (client: pg.Client) => Promise<T>): Promise<T> {
  const client = new pg.Client({ connectionString: url });
  await client.connect();
  return work(client).finally(() => client.end());
}

/** A closed deal beside four open ones. */
const copiesFor = (ownerUrl: string, openDeals: number): Promise<Copies> =>
  asOwner(ownerUrl, async (client) => {
    const { rows } = await client.query<{ open: number; closed: number }>(
      `select count(*) filter (where status = 'open')::int as open, count(*) filter (where status <> 'open')::int as closed from deals`,
    );
    const { open, closed } = rows[0] ?? { open: 1, closed: 1 };
    return { open: Math.ceil(openDeals / open) - 1, others: Math.max(0, Math.ceil(openDeals / 4 / closed) - 1) };
  });

/** Lives the small book. */
async function live(url: string): Promise<void> {
  const source = await createDataSource(url, 1).initialize();
  try {
    await loadBook(source, parts());
  } finally {
    await source.destroy();
  }
}

function* parts() {
  for (const part of demoBook(BOOK_DAY, { deals: LIVED })) yield readBookPart(writeBookPart(part));
}
