import { afterAll, beforeAll, expect, it } from 'vitest';
import { createTestDatabase, type TestDatabase } from '../testing/testDatabase.ts';
import { createDataSource } from './dataSource.ts';

let database: TestDatabase;
beforeAll(async () => {
  database = await createTestDatabase();
});
afterAll(() => database.drop());

it('the entities say of every table what the migrations made of it', async () => {
  const source = await createDataSource(database.ownerUrl, 2).initialize();
  const { upQueries } = await source.driver.createSchemaBuilder().log();
  const tables = await source.query<{ name: string }[]>(
    `select relname as name from pg_class where relkind = 'r' and relnamespace = 'public'::regnamespace and relname <> 'migrations' order by relname`,
  );
  const known = source.entityMetadatas.map(({ tableName }) => tableName);
  await source.destroy();
  expect(upQueries.map(({ query }) => query)).toEqual([]);
  expect(known.toSorted()).toEqual(tables.map(({ name }) => name).toSorted());
});
