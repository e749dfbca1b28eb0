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
  const tables = await source.query<{ name: string }[]>(
    `select relname as name from pg_class where relkind = 'r' and relnamespace = 'public'::regnamespace and relname <> 'migrations' order by relname`,
  );
  // What PostgreSQL makes itself of other columns is no part of an entity.
  const made = await source.query<{ drop: string }[]>(
    `select format('alter table %I drop column %I', relname, attname) as drop
     from pg_attribute join pg_class t on t.oid = attrelid where attgenerated <> '' and relkind = 'r'`,
  );
  for (const { drop } of made) await source.query(drop);
  const { upQueries } = await source.driver.createSchemaBuilder().log();
  const known = source.entityMetadatas.map(({ tableName }) => tableName);
  await source.destroy();
  expect(upQueries.map(({ query }) => query)).toEqual([]);
  expect(known.toSorted()).toEqual(tables.map(({ name }) => name).toSorted());
});
