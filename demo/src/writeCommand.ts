import { once } from 'node:events';
import { writeBookPart } from '@ladder/contract';
import { demoBook } from './demoBook.ts';

/* Writes the demo company as a book to the standard output. */

const deals = Number(process.env.DEMO_DEALS ?? 650);
// Whoever reads it may have no use for it.
process.stdout.on('error', () => process.exit(0));
for (const part of demoBook(Date.now(), { deals }))
  if (!process.stdout.write(writeBookPart(part))) await once(process.stdout, 'drain');
