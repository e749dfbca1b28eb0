import { readBookPart, writeBookPart } from '@ladder/contract';
import type { Deal, DealId } from '@ladder/core';
import { demoBook, PROCESS_IDS } from '@ladder/demo/demoBook.ts';
import { loadBook } from '@ladder/server/book/loadBook.ts';
import { createDataSource } from '@ladder/server/db/dataSource.ts';
import { loadDeals } from '@ladder/server/deals/repository/loadDeals.ts';
import { wholeBook } from '@ladder/server/deals/repository/openBook.ts';
import { countOpen } from '@ladder/server/deals/repository/openSums.ts';
import { verifyJournal } from '@ladder/server/journal/verify.ts';
import { createTestDatabase } from '@ladder/server/testing/testDatabase.ts';
import pg from 'pg';
import { expect, it } from 'vitest';
import { growBook } from './growBook.ts';

const NOW = Date.UTC(2026, 10, 26, 9);

function* parts() {
  for (const part of demoBook(NOW, { deals: 40 })) yield readBookPart(writeBookPart(part));
}

/** What two deals that lived the same have in common. */
const life = ({ id: _id, name: _name, externalId: _externalId, ...deal }: Deal): string => JSON.stringify(deal);

it('a grown book holds the lived deals again and again, each as it was lived, with chains that hold', async () => {
  const database = await createTestDatabase();
  const source = await createDataSource(database.serverUrl, 2).initialize();
  const lived = await loadBook(source, parts());
  const owner = new pg.Client({ connectionString: database.ownerUrl });
  await owner.connect();
  const idsOf = async (): Promise<DealId[]> => (await owner.query('select id from deals')).rows.map(({ id }) => id);
  const before = await loadDeals(source, await idsOf());
  await growBook(database.ownerUrl, { open: 3, others: 1 });
  const after = await loadDeals(source, await idsOf());
  expect(after).toHaveLength(before.length + 3 * (lived?.open ?? 0) + (lived?.closed ?? 0));
  expect(new Set(after.map(life))).toEqual(new Set(before.map(life)));
  expect(after.filter((deal) => life(deal) === life(before[0] as Deal)).length).toBeGreaterThan(1);
  expect((await verifyJournal(source)).broken).toBeNull();
  const open = after.filter(({ process, status }) => process === PROCESS_IDS.newBuild && status.state === 'open');
  const book = wholeBook(PROCESS_IDS.newBuild, NOW);
  const stages = await countOpen(source, book, { by: ['stage'] }, '2026-11-26');
  expect(stages.length).toBeGreaterThan(1);
  expect(stages.reduce((sum, { deals }) => sum + deals, 0)).toBe(open.length);
  await owner.end();
  await source.destroy();
  await database.drop();
});
