import type { DealId, Values } from '@ladder/core';
import type { EntityManager } from 'typeorm';
import { LINK, type PartyTable, visibleParties } from '../access/repository.ts';
import { likeText } from '../db/likeText.ts';
import { type Connection, sql } from '../db/sql.ts';
import type { Person } from '../session/person.ts';

interface PartySearch {
  readonly find?: string;
  readonly customer?: string;
  readonly limit: number;
  readonly cursor: readonly [string, string] | null;
}

/** Customers or contacts whom the person may see, by name. */
export function findParties(
  connection: Connection,
  person: Person,
  table: PartyTable,
  { find, customer: wanted, limit, cursor }: PartySearch,
): Promise<PartyRow[]> {
  const customer = table === 'customers' ? 'null::uuid' : 'customer_id';
  const seen = visibleParties(person, table);
  return sql<PartyRow>(
    connection,
    `select id, name, name_fold, values, ${customer} as customer from ${table}
     where withdrawn_at is null and ${seen.condition} and (:name::text is null or (name_fold, id) > (:name::text, :id::uuid)) and (:find::text is null or name_fold like :find::text)
       and (:customer::uuid is null or ${customer} = :customer::uuid) order by name_fold, id limit :limit`,
    {
      ...seen.parameters,
      name: cursor?.[0],
      id: cursor?.[1],
      find: find ? likeText(find) : null,
      customer: wanted,
      limit,
    },
  );
}

export async function openDealsOf(tx: EntityManager, table: PartyTable, id: string): Promise<readonly DealId[]> {
  const deals = await sql<{ id: DealId }>(
    tx,
    `select id from deals where ${LINK[table]} = :id and status = 'open' order by id`,
    { id },
  );
  return deals.map((deal) => deal.id);
}

/** Whether the person may choose the customer. */
export async function isOffered(tx: EntityManager, person: Person, customer: string): Promise<boolean> {
  const seen = visibleParties(person, 'customers');
  const known = await sql(
    tx,
    `select id from customers where id = :customer and withdrawn_at is null and ${seen.condition}`,
    { customer, ...seen.parameters },
  );
  return known.length > 0;
}

export interface PartyRow {
  readonly id: string;
  readonly name: string;
  readonly name_fold: string;
  readonly values: Values;
  readonly customer: string | null;
}
