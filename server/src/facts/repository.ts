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

/** Lets nobody else change the catalogue until the transaction ends: whether a field is right depends on the others. */
export const lockCatalogue = (tx: EntityManager): Promise<unknown> =>
  sql(tx, `select pg_advisory_xact_lock(hashtextextended('fields', 2))`);

/** Whether any record of its holder has a value in a field; deals have one only in fields that were published. */
export async function isFilled(tx: EntityManager, { id, holder }: Field): Promise<boolean> {
  if (holder === 'deal') return false;
  const rows = await sql(
    tx,
    `select true from ${TABLES[holder]} where coalesce(values -> :field, 'null') <> 'null' limit 1`,
    { field: id },
  );
  return rows.length > 0;
}

/** Ids of the administrator's fields that were published once. */
export const usedFieldIds = async (connection: Connection): Promise<readonly string[]> => {
  const rows = await sql<{ id: string }>(connection, `select id from fields where first_used_at is not null`);
  return rows.map(({ id }) => id);
};
