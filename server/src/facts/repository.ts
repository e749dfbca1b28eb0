import type { Field, FieldHolder, Values } from '@ladder/core';
import type { EntityManager } from 'typeorm';
import { asArray, type Connection, sql } from '../db/sql.ts';

export const TABLES = { customer: 'customers', contact: 'contacts' } as const;

export const BATCH = 1_000;

export type PartyHolder = Exclude<FieldHolder, 'deal'>;

export interface PartyRow {
  readonly id: string;
  readonly values: Values;
}

/** The next customers or contacts by id, locked. */
export const lockSomeParties = (tx: EntityManager, holder: PartyHolder, after: string): Promise<PartyRow[]> =>
  sql<PartyRow>(
    tx,
    `select id, values from ${TABLES[holder]} where id > :after order by id limit ${BATCH} for no key update`,
    { after },
  );

export const writePartyValues = (
  tx: EntityManager,
  holder: PartyHolder,
  changed: readonly PartyRow[],
): Promise<unknown> =>
  sql(
    tx,
    `update ${TABLES[holder]} t set values = r.values from jsonb_to_recordset(:changed) as r(id uuid, values jsonb) where t.id = r.id`,
    { changed },
  );

export const findPartyValues = (connection: Connection, ids: readonly string[]): Promise<PartyRow[]> =>
  sql<PartyRow>(
    connection,
    `select id, values from customers where id = any(:ids::uuid[]) union all select id, values from contacts where id = any(:ids::uuid[])`,
    { ids: asArray(ids) },
  );

/** Keeps customers and contacts as they are until the transaction ends. */
export async function holdParties(connection: Connection, ids: readonly string[]): Promise<void> {
  for (const table of Object.values(TABLES))
    await sql(connection, `select id from ${table} where id = any(:ids::uuid[]) order by id for share`, {
      ids: asArray(ids),
    });
}

/** Definitions of the administrator's fields, in their order. */
export const fieldDefinitions = (connection: Connection): Promise<{ definition: Field }[]> =>
  sql<{ definition: Field }>(connection, `select definition from fields order by place, id`);
