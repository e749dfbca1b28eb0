import { minorDigits } from '@ladder/core';
import { type Connection, sql } from '../db/sql.ts';

/**
 * The latest rate of each pair of currencies, also the other way round where only one way was set; the
 * later one counts, and of one day the one that was set that way.
 */
export const LATEST_RATES = `
  select distinct on (from_currency, to_currency) from_currency, to_currency, rate from (
    select from_currency, to_currency, day, rate, 1 as turned from rates
    union all select to_currency, from_currency, day, 1 / rate, 2 from rates
  ) set_rates order by from_currency, to_currency, day desc, turned`;

/** As `r`: what one minor unit of each currency is in minor units of :currency. Needs :digits. */
export const REPORTING_RATES = `
  r as (
    select from_currency, rate * power(10::numeric, coalesce((:digits::jsonb->>to_currency)::int, 2) - coalesce((:digits::jsonb->>from_currency)::int, 2)) as factor
    from (${LATEST_RATES}) latest where to_currency = :currency
  )`;

/** A deal's value in :currency, rounded half-even before anything is summed (S33); null where there is no rate. */
export const REPORTING_MINOR = `case when d.currency = :currency then d.value_minor else half_even(d.value_minor * r.factor) end`;

/** Whether a deal's value cannot be told in :currency. */
export const LACKS_RATE = 'd.value_minor is not null and d.currency <> :currency and r.factor is null';

/** Decimal places of the currencies in use that have not two, for REPORTING_RATES. */
export async function minorDigitsInUse(connection: Connection): Promise<Readonly<Record<string, number>>> {
  const rows = await sql<{ currency: string }>(
    connection,
    `select from_currency as currency from rates union select to_currency from rates`,
  );
  return Object.fromEntries(rows.map(({ currency }) => [currency, minorDigits(currency)]));
}
