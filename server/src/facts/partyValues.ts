import type { Values } from '@ladder/core';
import type { Connection } from '../db/sql.ts';
import { findPartyValues, holdParties } from './repository.ts';

const ID = /^[0-9a-f]{8}(-[0-9a-f]{4}){3}-[0-9a-f]{12}$/;

/** What was written in their place and is no id names nobody. */
const idsOf = (deals: readonly Values[]): readonly string[] =>
  deals.flatMap(({ customer, contact }) =>
    [customer, contact].filter((id): id is string => typeof id === 'string' && ID.test(id)),
  );

/** For each deal's values those of the customer and contact that it names, which criteria may read. */
export async function loadPartyValues(connection: Connection, deals: readonly Values[]): Promise<readonly Values[]> {
  const rows = await findPartyValues(connection, [...new Set(idsOf(deals))]);
  const byId = new Map(rows.map(({ id, values }) => [id, values]));
  const of = (id: Values[string] | undefined): Values => byId.get(String(id)) ?? {};
  return deals.map(({ customer, contact }) => ({ ...of(customer), ...of(contact) }));
}

/**
 * Locks the customer and the contact that a deal is about to name, until the transaction ends: a change of theirs that comes
 * meanwhile waits, and then judges this deal too.
 */
export async function lockParties(connection: Connection, deal: Values): Promise<void> {
  await holdParties(connection, idsOf([deal]));
}

/** The values of the customer and contact that a new deal names, both locked. */
export async function lockPartyValues(connection: Connection, deal: Values): Promise<Values> {
  await lockParties(connection, deal);
  const [values = {}] = await loadPartyValues(connection, [deal]);
  return values;
}
