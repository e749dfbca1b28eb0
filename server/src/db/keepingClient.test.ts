import { afterAll, beforeAll, expect, it } from 'vitest';
import { createTestDatabase, type TestDatabase } from '../testing/testDatabase.ts';
import { createDataSource } from './dataSource.ts';
import { sqlState } from './failures.ts';
import { inOrder } from './inOrder.ts';
import { kept } from './keepingClient.ts';
import { sql } from './sql.ts';
import { retried } from './transactions.ts';

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

it('what is asked at once is answered in order; of what fails, the cause is told, and the connection goes on', async () => {
  const source = await createDataSource(database.serverUrl, 1).initialize();
  const failing = retried(source, (tx) =>
    inOrder(
      sql(tx, 'select 1'),
      sql(tx, kept('select 1 / :none::int'), { none: 0 }),
      sql(tx, kept('select :never::text as seen'), { never: 'seen' }),
    ),
  );
  const DIVISION_BY_ZERO = '22012';
  expect(sqlState(await failing.catch((error: unknown) => error))).toBe(DIVISION_BY_ZERO);
  const seen = retried(source, (tx) =>
    inOrder(sql(tx, kept('select :never::text as seen'), { never: 'still' }), sql(tx, 'select 2 as two')),
  );
  expect(await seen).toEqual([[{ seen: 'still' }], [{ two: 2 }]]);
  await source.destroy();
});
