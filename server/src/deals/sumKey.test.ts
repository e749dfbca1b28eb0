import { addDays, type Day, isPastTarget } from '@ladder/core';
import fc from 'fast-check';
import type { DataSource } from 'typeorm';
import { afterAll, beforeAll, expect, it } from 'vitest';
import { createDataSource } from '../db/dataSource.ts';
import { type Connection, sql } from '../db/sql.ts';
import { asOwner, createTestDatabase, type TestDatabase } from '../testing/testDatabase.ts';
import { enteredDay, isPastTarget as isPastTargetSql, shapeNumber, withoutDays } from './repository/sumKey.ts';

/* What PostgreSQL makes of states as they are written, over any days there are: on a table like theirs, without deals. */

let database: TestDatabase;
let source: DataSource;
beforeAll(async () => {
  database = await createTestDatabase();
  await asOwner(
    database,
    `create table states_alone (like deal_states including defaults including generated);
     create trigger number_shape before insert on states_alone for each row execute function number_shape();
     grant select, insert, delete on states_alone to public;`,
  );
  source = await createDataSource(database.serverUrl, 3).initialize();
});
afterAll(async () => {
  await source.destroy();
  await database.drop();
});

interface Written {
  readonly entered: Day;
  readonly moveOn: Day | null;
  readonly kinds: string;
}

const ZERO = '00000000-0000-0000-0000-000000000000';
const write = (connection: Connection, states: readonly Written[]): Promise<{ shape: number }[]> =>
  sql(
    connection,
    `insert into states_alone (deal_id, process_id, from_at, to_at, entered_at, entered_day, move_on_day, findings, owed, shown_from, status, standing, stage_id, currency, kinds)
     select '${ZERO}', '${ZERO}', now(), 'infinity', now(), s.entered, s."moveOn", 0, 0, now(), 'open', 'clear', 'a', 'GBP', s.kinds
     from jsonb_to_recordset(:states) s (entered date, "moveOn" date, kinds text) returning shape`,
    { states },
  );

const day = fc.date({ min: new Date('0001-01-01'), max: new Date('9999-12-31'), noInvalidDate: true });
const isoDay = day.map((date) => date.toISOString().slice(0, 10) as Day);
const state = fc.record({
  entered: isoDay,
  target: fc.option(fc.integer({ min: 0, max: 60_000 })),
  kinds: fc.constantFrom('', 'field', 'field field idle'),
});

it('one number has the shape of a state, the day of coming to its stage, and whether it is past its target on any day', async () => {
  await fc.assert(
    fc.asyncProperty(fc.array(state, { minLength: 1, maxLength: 20 }), isoDay, async (drawn, today) => {
      const states = drawn
        .map(({ entered, target, kinds }) => ({
          entered,
          moveOn: target === null ? null : addDays(entered, target),
          kinds,
        }))
        .filter(({ moveOn }) => moveOn === null || moveOn.length === 10);
      await sql(source, 'delete from states_alone');
      await write(source, states);
      const read = await sql<Written & { past: boolean; apart: boolean }>(
        source,
        `select to_char(${enteredDay('d.sum_key')}, 'YYYY-MM-DD') as entered, to_char(d.move_on_day, 'YYYY-MM-DD') as "moveOn", s.kinds,
           ${isPastTargetSql('d.sum_key', ':today::date')} as past, (${withoutDays('d.sum_key')}) = s.number::bigint << 38 as apart
         from states_alone d join state_shapes s on s.number = ${shapeNumber('d.sum_key')}`,
        { today },
      );
      const expected = states.map((one) => ({ ...one, past: isPastTarget(one.moveOn, today), apart: true }));
      const sorted = (rows: readonly object[]) => rows.map((row) => JSON.stringify(Object.entries(row).sort())).sort();
      expect(sorted(read)).toEqual(sorted(expected));
    }),
    { numRuns: 60 },
  );
});

it('two that write a shape for the first time do not wait for each other, and either number says it', async () => {
  const fresh = [{ entered: '2026-01-01' as Day, moveOn: null, kinds: 'note' }];
  const numbers = await source.transaction(async (tx) => {
    const [first] = await write(tx, fresh);
    const [second] = await write(source, fresh);
    return [first?.shape, second?.shape];
  });
  const said = await sql<{ kinds: string }>(
    source,
    `select kinds from state_shapes where number = any(array[${numbers}])`,
  );
  expect(said).toEqual([{ kinds: 'note' }, { kinds: 'note' }]);
  const [third] = await write(source, fresh);
  expect(numbers).toContain(third?.shape);
});
