import { createDataSource } from '../db/dataSource.ts';
import { verifyJournal } from './journal.ts';

const url = process.env.DATABASE_URL;
if (!url) throw new Error('DATABASE_URL is not set.');
const dataSource = await createDataSource(url, 1).initialize();
const { entries, broken } = await verifyJournal(dataSource);
await dataSource.destroy();
if (broken) {
  console.error(`The journal is broken: deal ${broken.deal}, entry ${broken.seq} (${broken.what}).`);
  process.exitCode = 1;
} else {
  console.log(`The journal holds: ${entries} entries.`);
}
