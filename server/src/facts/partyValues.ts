import type { Values } from '@ladder/core';
import { asArray, type Connection, sql } from '../db/sql.ts';

const idsOf = (deals: readonly Values[]): readonly string[] =>
  deals.flatMap(({ customer, contact }) => [customer, contact].filter((id) => typeof id === 'string'));

interface PartyRow {
  readonly id: string;
  readonly values: Values;
}

/** For each deal's values those of the customer and contact that it names, which criteria may read. */
export async function loadPartyValues(connection: Connection, deals: readonly Values[]): Promise<readonly Values[]> {
  const rows = await sql<PartyRow>(
    connection,
    `select id, values from customers where id = any(:ids::uuid[]) union all select id, values from contacts where id = any(:ids::uuid[])`,
    { ids: asArray([...new Set(idsOf(deals))]) },
  );
  const byId = new Map(rows.map(({ id, values }) => [id, values]));
  const of = (id: Values[string] | undefined): Values => byId.get(String(id)) ?? {};
  return deals.map(({ customer, contact }) => ({ ...of(customer), ...of(contact) }));
}

/**
 * The same for one deal that is about to name them. Both are locked until the transaction ends: a change of theirs that
 * comes meanwhile waits, and then judges this deal too.
 */
export async function lockPartyValues(connection: Connection, deal: Values): Promise<Values> {
  const ids = asArray(idsOf([deal]));
  for (const table of ['customers', 'contacts'])
    await sql(connection, `select id from ${table} where id = any(:ids::uuid[]) for share`, { ids });
  const [values = {}] = await loadPartyValues(connection, [deal]);
  return values;
}
