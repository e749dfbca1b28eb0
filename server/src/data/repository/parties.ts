import type { EntityManager } from 'typeorm';
import { asArray, sql } from '../../db/sql.ts';

export interface Party {
  readonly id: string;
  readonly fold: string;
  readonly customer: string | null;
}

export const TABLES = {
  customers: { field: 'customer', owner: 'null::uuid' },
  contacts: { field: 'contact', owner: 'customer_id' },
} as const;

export type Table = keyof typeof TABLES;

/**
 * Looked up name by name in the order of the index by name: asked for all at once, the planner goes through the whole table,
 * or the index of their words (ten times as long among 100,000).
 */
export const findByName = (tx: EntityManager, table: Table, folds: readonly string[]): Promise<Party[]> =>
  sql<Party>(
    tx,
    `select p.id, p.fold, p.customer from unnest(:folds::text[]) as wanted(fold) cross join lateral (
       select id, name_fold as fold, ${TABLES[table].owner} as customer from ${table}
       where name_fold = wanted.fold and withdrawn_at is null order by name_fold, id
     ) p order by p.id`,
    { folds: asArray(folds) },
  );

export async function insertParties(
  tx: EntityManager,
  table: Table,
  parties: readonly NewParty[],
  importId: string,
): Promise<void> {
  if (parties.length === 0) return;
  const rows = parties.map(({ id, fold, name, customer }) => ({ id, name, fold, customer }));
  const owner = table === 'contacts' ? { column: ', customer_id', value: ', customer' } : { column: '', value: '' };
  await sql(
    tx,
    `insert into ${table} (id, name, name_fold, import_id${owner.column})
     select id, name, fold, :importId::uuid${owner.value} from jsonb_to_recordset(:rows) as r(id uuid, name text, fold text, customer uuid)`,
    { rows, importId },
  );
}

export interface NewParty extends Party {
  readonly name: string;
}
