import { readBookPart, writeBookPart } from '@ladder/contract';
import { demoBook } from '@ladder/demo/demoBook.ts';
import { type LoadedBook, loadBook } from '@ladder/server/book/loadBook.ts';
import { createDataSource } from '@ladder/server/db/dataSource.ts';
import { migrations } from '@ladder/server/db/migrations/index.ts';
import pg from 'pg';
import { ensureDatabase, migrateDatabase } from '../../../scripts/database.mjs';
import { startTestCluster } from '../../../scripts/startTestCluster.mjs';
import { type Copies, growBook } from './growBook.ts';

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
  const owner = async (database: string, work: (client: pg.Client) => Promise<unknown>): Promise<void> => {
    const client = new pg.Client({ connectionString: cluster.ownerUrl(database) });
    await client.connect();
    await work(client).finally(() => client.end());
  };
  const named = (name: string, openDeals: number): BenchBook => ({
    serverUrl: cluster.serverUrl(name),
    ownerUrl: cluster.ownerUrl(name),
    openDeals,
  });
  const nameOf = (openDeals: number): string => `bench_${migrations.length}_${openDeals}`;
  const book = async (openDeals: number): Promise<BenchBook> => {
    const name = nameOf(openDeals);
    const urls = { DATABASE_URL: cluster.serverUrl(name), MIGRATION_DATABASE_URL: cluster.ownerUrl(name) };
    await ensureDatabase(cluster, name);
    await migrateDatabase(urls);
    const lived = await live(urls.DATABASE_URL);
    if (lived) await owner(name, (client) => growBook(client, copiesFor(lived, openDeals)));
    return named(name, openDeals);
  };
  const copyOf = async (openDeals: number): Promise<BenchBook> => {
    await book(openDeals);
    const name = `${nameOf(openDeals)}_copy`;
    await owner('postgres', async (client) => {
      await client.query(`drop database if exists ${name} with (force)`);
      await client.query(`create database ${name} template ${nameOf(openDeals)}`);
    });
    return named(name, openDeals);
  };
  return { book, copyOf, stop: cluster.stop };
}

/** A closed deal beside four open ones. */
const copiesFor = ({ open, closed }: LoadedBook, openDeals: number): Copies => ({
  open: Math.ceil(openDeals / open) - 1,
  others: Math.max(0, Math.ceil(openDeals / 4 / closed) - 1),
});

/** Lives the small book; null where a book is there. */
async function live(url: string): Promise<LoadedBook | null> {
  const source = await createDataSource(url, 1).initialize();
  try {
    return await loadBook(source, parts());
  } finally {
    await source.destroy();
  }
}

function* parts() {
  for (const part of demoBook(BOOK_DAY, { deals: LIVED })) yield readBookPart(writeBookPart(part));
}
