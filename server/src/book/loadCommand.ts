import { createInterface } from 'node:readline';
import { type BookPart, readBookPart } from '@ladder/contract';
import { createDataSource } from '../db/dataSource.ts';
import { loadBook } from './loadBook.ts';

/* Loads a book from the standard input into an empty database. */

const url = process.env.DATABASE_URL;
if (!url) throw new Error('DATABASE_URL is not set.');

async function* parts(): AsyncGenerator<BookPart> {
  for await (const line of createInterface({ input: process.stdin })) yield readBookPart(line);
}

const source = await createDataSource(url, 2).initialize();
const loaded = await loadBook(source, parts());
await source.destroy();
console.log(
  loaded ? `${loaded.open} open and ${loaded.closed} closed deals` : 'the database is in use already, left alone',
);
process.exit(0);
