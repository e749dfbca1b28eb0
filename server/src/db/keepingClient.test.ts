import { afterAll, beforeAll, expect, it } from 'vitest';
import { createTestDatabase, type TestDatabase } from '../testing/testDatabase.ts';
import { createDataSource } from './dataSource.ts';
import { kept } from './keepingClient.ts';
import { sql } from './sql.ts';

let database: TestDatabase;
beforeAll(async () => {
  database = await createTestDatabase();
});
afterAll(() => database.drop());

it('a connection prepares once what is marked to be kept, and nothing else', async () => {
  const source = await createDataSource(database.serverUrl, 1).initialize();
  for (const asked of [1, 2, 3]) {
    expect(await sql(source, kept('select :asked::int + 1 as more'), { asked })).toEqual([{ more: asked + 1 }]);
    await sql(source, 'select :asked::int as same', { asked });
  }
  const prepared = await sql<{ statement: string }>(source, 'select statement from pg_prepared_statements');
  await source.destroy();
  expect(prepared.map(({ statement }) => statement)).toEqual([expect.stringContaining('+ 1 as more')]);
});
