import { convert, halfEvenRatio, minorDigits } from '@ladder/core';
import fc from 'fast-check';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { createDataSource } from '../db/dataSource.ts';
import { sql } from '../db/sql.ts';
import { createTestDatabase, type TestDatabase } from '../testing/testDatabase.ts';

/* An amount that a gate compares and the same amount in a total are one number: core and PostgreSQL convert alike (S33). */

let database: TestDatabase;
let connection: Awaited<ReturnType<ReturnType<typeof createDataSource>['initialize']>>;
beforeAll(async () => {
  database = await createTestDatabase();
  connection = await createDataSource(database.serverUrl, 1).initialize();
});
afterAll(async () => {
  await connection.destroy();
  await database.drop();
});

const decimal = fc
  .tuple(fc.integer({ min: 1, max: 999_999 }), fc.integer({ min: 0, max: 6 }))
  .map(([digits, places]) => {
    const text = String(digits).padStart(places + 1, '0');
    return places === 0 ? text : `${text.slice(0, -places)}.${text.slice(-places)}`;
  });
const currency = fc.constantFrom('GBP', 'JPY', 'BHD', 'CLF');

describe('core and the database', () => {
  it('convert every amount to the same minor unit', async () => {
    const cases = fc.sample(
      fc.record({
        minor: fc.integer({ min: -(10 ** 11), max: 10 ** 11 }),
        value: decimal,
        turned: fc.constantFrom('no' as const, 'yes' as const),
        from: currency,
        to: currency,
      }),
      { numRuns: 3_000, seed: 7 },
    );
    const halves = [50, 70, 90, 1150].map(
      (minor) => ({ minor, value: '1.15', turned: 'no', from: 'GBP', to: 'EUR' }) as const,
    );
    const all = [...cases, ...halves].filter(({ from, to }) => from !== to);
    const rows = await sql<{ minor: string | null }>(
      connection,
      `select convert_minor(minor, value::numeric, turned = 'yes', shift)::text as minor
       from jsonb_to_recordset(:all) as r(minor bigint, value text, turned text, shift integer, place integer) order by place`,
      { all: all.map((each, place) => ({ ...each, place, shift: minorDigits(each.to) - minorDigits(each.from) })) },
    );
    all.forEach(({ minor, from, to, value, turned }, place) => {
      const converted = convert({ minor, currency: from }, to, () => ({ value, turned }))?.minor;
      const inSql = rows[place]?.minor ?? null;
      expect([minor, from, to, value, turned, converted ?? 'too large']).toEqual([
        minor,
        from,
        to,
        value,
        turned,
        inSql === null ? 'too large' : Number(inSql),
      ]);
    });
  });

  /* IEEE 754, roundTiesToEven. */
  it('round a half to the even neighbour', async () => {
    const tenths = [5, 15, 25, -5, -15, 24, 26];
    const rows = await sql<{ rounded: string }>(
      connection,
      `select half_even_ratio(v::numeric, 10)::text as rounded from jsonb_array_elements_text(:tenths) with ordinality as t(v, place) order by place`,
      { tenths },
    );
    expect(rows.map(({ rounded }) => Number(rounded) + 0)).toEqual([0, 2, 2, 0, -2, 2, 3]);
    expect(tenths.map((tenth) => Number(halfEvenRatio(BigInt(tenth), 10n)) + 0)).toEqual([0, 2, 2, 0, -2, 2, 3]);
  });
});
