import { type Criterion, catalogueOf, type Field } from '@ladder/core';
import { isTrue } from '@ladder/core/criteria/satisfy/claim.ts';
import { satisfy } from '@ladder/core/criteria/satisfy/satisfy.ts';
import fc from 'fast-check';
import pg from 'pg';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { createTestDatabase, type TestDatabase } from '../testing/testDatabase.ts';

/*
 * What can be so, against PostgreSQL: the same criterion written as SQL by the few lines below, over a table that has every
 * mixture of the values that matter. NULL is its unknown (ISO/IEC 9075).
 */

const choices = ['a', 'b', 'c'].map((id) => ({ id, name: id }));
const FIELDS: readonly Field[] = [
  { id: 'x', name: 'X', holder: 'deal', type: 'number', min: 0, max: 3 },
  { id: 'y', name: 'Y', holder: 'deal', type: 'number', min: 0, max: 3 },
  { id: 'd', name: 'D', holder: 'deal', type: 'date', firstDay: '2026-11-01', lastDay: '2026-11-06' },
  { id: 'c', name: 'C', holder: 'deal', type: 'choice', choices },
  { id: 'p', name: 'P', holder: 'deal', type: 'yes_no' },
];
const subject = { catalogue: catalogueOf(FIELDS), resultsOf: () => [], currency: 'GBP', today: 20_000 };

let database: TestDatabase;
let client: pg.Client;
beforeAll(async () => {
  database = await createTestDatabase();
  client = new pg.Client({ connectionString: database.ownerUrl });
  await client.connect();
  await client.query(`
    create table grid as
      select x, y, d, c, p from
        (select n / 4.0 as x from generate_series(0, 12) n union all select null) x,
        (select n / 4.0 as y from generate_series(0, 12) n union all select null) y,
        (select date '2026-11-01' + n as d from generate_series(0, 5) n union all select null) d,
        (values ('a'), ('b'), ('c'), (null)) c (c), (values (true), (false), (null)) p (p)`);
});
afterAll(async () => {
  await client.end();
  await database.drop();
});

const OPERATORS = { equals: '=', differs: '<>', more: '>', at_least: '>=', less: '<', at_most: '<=' } as const;
type Comparison = keyof typeof OPERATORS;
interface Leaf {
  readonly tree: Criterion;
  readonly sql: string;
}

const field = (id: string) => ({ of: 'field' as const, field: id });
const comparison = fc.constantFrom(...(Object.keys(OPERATORS) as Comparison[]));
const compared = (id: string, constant: string | number): fc.Arbitrary<Leaf> =>
  comparison.map((kind) => ({
    tree: { kind, left: field(id), right: { of: 'value', value: constant } },
    sql: `${id} ${OPERATORS[kind]} '${constant}'`,
  }));
const leaf: fc.Arbitrary<Leaf> = fc.oneof(
  fc.tuple(fc.constantFrom('x', 'y'), fc.integer({ min: 0, max: 3 })).chain(([id, constant]) => compared(id, constant)),
  fc.integer({ min: 1, max: 6 }).chain((day) => compared('d', `2026-11-0${day}`)),
  comparison.map((kind) => ({ tree: { kind, left: field('x'), right: field('y') }, sql: `x ${OPERATORS[kind]} y` })),
  fc.subarray(['a', 'b', 'c'], { minLength: 1 }).map((values) => ({
    tree: { kind: 'one_of' as const, left: field('c'), values },
    sql: `c in (${values.map((id) => `'${id}'`).join(', ')})`,
  })),
  fc.boolean().map((value) => ({
    tree: { kind: 'equals' as const, left: field('p'), right: { of: 'value' as const, value } },
    sql: `p = ${value}`,
  })),
  fc
    .constantFrom('x', 'd', 'c', 'p')
    .map((id) => ({ tree: { kind: 'unset' as const, left: field(id) }, sql: `${id} is null` })),
);
const { tree } = fc.letrec<{ tree: Leaf }>((tie) => ({
  tree: fc.oneof(
    { depthSize: 'medium' },
    leaf,
    fc
      .tuple(fc.constantFrom('all' as const, 'any' as const), fc.array(tie('tree'), { minLength: 2, maxLength: 4 }))
      .map(([kind, of]) => ({
        tree: { kind, of: of.map((part) => part.tree) },
        sql: `(${of.map(({ sql }) => sql).join(kind === 'all' ? ' and ' : ' or ')})`,
      })),
    tie('tree').map((part) => ({ tree: { kind: 'not' as const, of: part.tree }, sql: `not (${part.sql})` })),
  ),
}));

describe('what can be so', () => {
  it('is what PostgreSQL finds a row for, and of what cannot be it finds none', async () => {
    const seen = { possible: 0, impossible: 0 };
    await fc.assert(
      fc.asyncProperty(fc.array(tree, { minLength: 1, maxLength: 5 }), async (all) => {
        const { rows } = await client.query(
          `select exists (select from grid where ${all.map(({ sql }) => sql).join(' and ')}) as found`,
        );
        const answer = satisfy(isTrue({ kind: 'all', of: all.map((one) => one.tree) }), subject).is;
        expect(answer).toBe(rows[0].found ? 'possible' : 'impossible');
        seen[rows[0].found ? 'possible' : 'impossible']++;
      }),
      { numRuns: 300 },
    );
    expect(Math.min(seen.possible, seen.impossible)).toBeGreaterThan(20);
  });
});
