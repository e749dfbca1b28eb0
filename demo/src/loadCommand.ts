import { createDataSource } from '@ladder/server/db/dataSource.ts';
import { loadDemo } from './load.ts';

const url = process.env.DATABASE_URL;
if (!url) throw new Error('DATABASE_URL is not set.');
const deals = Number(process.env.DEMO_DEALS ?? 650);
const dataSource = await createDataSource(url, 2).initialize();
const loaded = await loadDemo(dataSource, Date.now(), { deals });
await dataSource.destroy();
console.log(
  loaded ? `${loaded.open} open and ${loaded.closed} closed deals` : 'the database is in use already, left alone',
);
