import { type Catalogue, canonicalText, type Exchange, type Values, withCalculated } from '@ladder/core';
import type { EntityManager } from 'typeorm';
import { pagesById } from '../db/pagesById.ts';
import type { Connection } from '../db/sql.ts';
import { organisation } from '../session/repository.ts';
import { latestRates } from '../setting/repository/rates.ts';
import { presentCatalogue } from './catalogue.ts';
import { lockSomeParties, type PartyHolder, writePartyValues } from './repository.ts';

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
  holder: PartyHolder,
  { catalogue, exchange }: PartyExchange,
): Values => withCalculated(values, catalogue, holder, exchange);

/** Works out the calculated numbers of all customers or contacts, after a field was added or a rate was set. */
export async function recalculateParties(tx: EntityManager, holder: PartyHolder): Promise<void> {
  const by = await partyExchange(tx, await presentCatalogue(tx));
  if (![...by.catalogue.values()].some((field) => field.holder === holder && field.type === 'calculated')) return;
  const pages = pagesById(
    (after) => lockSomeParties(tx, holder, after),
    ({ id }) => id,
  );
  for await (const rows of pages) {
    const changed = rows
      .map(({ id, values }) => ({ id, values: recalculatedParty(values, holder, by), before: values }))
      .filter(({ values, before }) => canonicalText(values) !== canonicalText(before))
      .map(({ id, values }) => ({ id, values }));
    await writePartyValues(tx, holder, changed);
  }
}
