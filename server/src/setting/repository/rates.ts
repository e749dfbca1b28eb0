import { minorDigits, type Rate, type RateOf } from '@ladder/core';
import { type Connection, sql } from '../../db/sql.ts';

/**
 * The latest rate of each pair of currencies, also the other way round (`turned`) where only one way was set; the
 * later one counts, and of one day the one that was set that way.
 */
const latestOf = (which: string): string => `
  select distinct on (from_currency, to_currency) from_currency, to_currency, rate, turned from (
    select from_currency, to_currency, day, rate, false as turned from rates
    union all select to_currency, from_currency, day, rate, true from rates
  ) set_rates where ${which} order by from_currency, to_currency, day desc, turned`;

/**
 * As `r`: the rate from each currency into :currency as of :today, and by how many decimal places their minor units differ.
 * Needs :digits.
 */
export const REPORTING_RATES = `
  r as (
    select from_currency, rate, turned, coalesce((:digits::jsonb->>to_currency)::int, 2) - coalesce((:digits::jsonb->>from_currency)::int, 2) as shift
    from (${latestOf('day <= :today::date')}) latest where to_currency = :currency
  )`;

/** An amount in :currency, as core's `convert` gives it; null where there is no rate, or it would be too large to be told exactly. */
export const converted = (minor: string, currency: string): string =>
  `(select convert_minor(${minor}, r.rate, r.turned, r.shift) from r where r.from_currency = ${currency})`;

/** Decimal places of the currencies in use that have not two, for REPORTING_RATES. */
export async function minorDigitsInUse(connection: Connection): Promise<Readonly<Record<string, number>>> {
  const rows = await sql<{ currency: string }>(
    connection,
    `select from_currency as currency from rates union select to_currency from rates`,
  );
  return Object.fromEntries(rows.map(({ currency }) => [currency, minorDigits(currency)]));
}

/** A pair of currencies with its rate, as JSON has it. */
export interface RateRow extends Rate {
  readonly from: string;
  readonly to: string;
}

/** The latest rates as one JSON list; the rate is a text, so that it stays exact. */
export const RATES_AS_JSON = `
  select coalesce(json_agg(json_build_object('from', from_currency, 'to', to_currency, 'value', rate::text,
    'turned', case when turned then 'yes' else 'no' end)), '[]') as rates from (${latestOf('true')}) latest`;

/** Rates by their pair, as core asks for them. */
export function rateTable(rates: readonly RateRow[]): RateOf {
  const table = new Map(rates.map(({ from, to, value, turned }) => [`${from}${to}`, { value, turned }]));
  return (from, to) => table.get(`${from}${to}`);
}

/** The latest rates, as core asks for them. */
export async function latestRates(connection: Connection): Promise<RateOf> {
  const [row] = await sql<{ rates: readonly RateRow[] }>(connection, RATES_AS_JSON);
  return rateTable(row?.rates ?? []);
}
