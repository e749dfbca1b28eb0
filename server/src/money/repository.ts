import type { rates as contract, TypeOf } from '@ladder/contract';
import type { EntityManager } from 'typeorm';
import { type Connection, sql } from '../db/sql.ts';

export type Rate = TypeOf<typeof contract.rate>;

export const findRates = (
  connection: Connection,
  limit: number,
  cursor: readonly [string, string, string] | null,
): Promise<Rate[]> =>
  sql<Rate>(
    connection,
    `select from_currency as "from", to_currency as "to", day::text, rate::float8 from rates
     where :day::date is null or day < :day::date or (day = :day::date and (from_currency, to_currency) > (:from, :to))
     order by day desc, from_currency, to_currency limit :limit`,
    { day: cursor?.[0], from: cursor?.[1], to: cursor?.[2], limit },
  );

/** A day's rate as it is set; null where it is not. */
export async function readRate(tx: EntityManager, { from, to, day }: Rate): Promise<number | null> {
  const [row] = await sql<{ rate: number }>(
    tx,
    `select rate::float8 from rates where from_currency = :from and to_currency = :to and day = :day`,
    { from, to, day },
  );
  return row?.rate ?? null;
}

/** Sets a day's rate, in place of the one it had. */
export const writeRate = (tx: EntityManager, rate: Rate): Promise<unknown> =>
  sql(
    tx,
    `insert into rates (from_currency, to_currency, day, rate) values (:from, :to, :day, :rate)
     on conflict (from_currency, to_currency, day) do update set rate = excluded.rate`,
    { ...rate },
  );
