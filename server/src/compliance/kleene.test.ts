import { and, type Kleene, not, or } from '@ladder/core';
import { afterAll, beforeAll, expect, it } from 'vitest';
import { asOwner, createTestDatabase, type TestDatabase } from '../testing/testDatabase.ts';

/* ISO/IEC 9075 (SQL) gives its three truth values by the same tables; PostgreSQL itself is asked. */

let database: TestDatabase;
beforeAll(async () => {
  database = await createTestDatabase();
});
afterAll(() => database.drop());

it('core and PostgreSQL agree on every truth table', async () => {
  const { rows } = await asOwner(
    database,
    `select a, b, a and b as both, a or b as either, not a as turned from unnest(array[true, false, null]) a, unnest(array[true, false, null]) b`,
  );
  expect(rows).toHaveLength(9);
  for (const { a, b, both, either, turned } of rows as {
    a: Kleene;
    b: Kleene;
    both: Kleene;
    either: Kleene;
    turned: Kleene;
  }[]) {
    expect([and(a, b), or(a, b), not(a)]).toEqual([both, either, turned]);
  }
});
