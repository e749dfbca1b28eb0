import {
  type Catalogue,
  canonicalText,
  type Exchange,
  type FieldHolder,
  type Values,
  withCalculated,
} from '@ladder/core';
import type { EntityManager } from 'typeorm';
import { type Connection, sql } from '../db/sql.ts';
import { organisation } from '../session/organisation.ts';
import { latestRates } from '../setting/rates.ts';
import { presentCatalogue } from './catalogue.ts';

/** What the calculated numbers of customers and contacts are worked out by: amounts count in the organisation's currency. */
export interface PartyExchange {
  readonly catalogue: Catalogue;
  readonly exchange: Exchange;
}

export async function partyExchange(connection: Connection, catalogue: Catalogue): Promise<PartyExchange> {
  const { currency } = await organisation(connection);
  return { catalogue, exchange: { currency, rateOf: await latestRates(connection) } };
}

/** A customer's or contact's values with its calculated numbers worked out (S29). */
export const recalculatedParty = (
  values: Values,
  holder: Exclude<FieldHolder, 'deal'>,
  { catalogue, exchange }: PartyExchange,
): Values => withCalculated(values, catalogue, holder, exchange);

const TABLES = { customer: 'customers', contact: 'contacts' } as const;
const BATCH = 1_000;

/** Works out the calculated numbers of all customers or contacts, after a field was added or a rate was set. */
export async function recalculateParties(tx: EntityManager, holder: keyof typeof TABLES): Promise<void> {
  const by = await partyExchange(tx, await presentCatalogue(tx));
  if (![...by.catalogue.values()].some((field) => field.holder === holder && field.type === 'calculated')) return;
  for (let after = '00000000-0000-0000-0000-000000000000'; ; ) {
    const rows = await sql<{ id: string; values: Values }>(
      tx,
      `select id, values from ${TABLES[holder]} where id > :after order by id limit ${BATCH} for no key update`,
      { after },
    );
    const last = rows.at(-1);
    if (!last) return;
    const changed = rows
      .map(({ id, values }) => ({ id, values: recalculatedParty(values, holder, by), before: values }))
      .filter(({ values, before }) => canonicalText(values) !== canonicalText(before))
      .map(({ id, values }) => ({ id, values }));
    await sql(
      tx,
      `update ${TABLES[holder]} t set values = r.values from jsonb_to_recordset(:changed) as r(id uuid, values jsonb) where t.id = r.id`,
      { changed },
    );
    after = last.id;
  }
}
