import { afterAll, beforeAll, expect, it } from 'vitest';
import { asOwner, createTestDatabase, type TestDatabase } from '../testing/testDatabase.ts';
import { createDataSource } from './dataSource.ts';
import { exportSnapshot, inSnapshotOf } from './snapshots.ts';
import { sql } from './sql.ts';
import type { Work } from './transactions.ts';

let database: TestDatabase;
beforeAll(async () => {
  database = await createTestDatabase();
});
afterAll(() => database.drop());

const rates: Work<number> = async (tx) => (await sql(tx, 'select 1 from rates', {})).length;

it('another transaction sees what the one sees that let it, whatever was committed since', async () => {
  const source = await createDataSource(database.serverUrl, 3).initialize();
  const [asSeen, since] = await source.transaction('REPEATABLE READ', async (tx) => {
    const snapshot = await exportSnapshot(tx);
    const before = await rates(tx);
    await asOwner(database, "insert into rates values ('SEK', 'GBP', '2026-01-01', 0.07)");
    return [(await inSnapshotOf(source, snapshot, rates)) - before, (await rates(source.manager)) - before];
  });
  expect([asSeen, since]).toEqual([0, 1]);
  await expect(inSnapshotOf(source, "x'; drop table rates", rates)).rejects.toThrow('has no name');
  await source.destroy();
});
