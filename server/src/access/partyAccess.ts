import type { EntityManager } from 'typeorm';
import { sql } from '../db/sql.ts';
import { notFound, Problem } from '../problems/problem.ts';
import type { Person } from '../session/person.ts';
import { visibleDeals } from './dealAccess.ts';

export type PartyTable = 'customers' | 'contacts';

interface Condition {
  readonly condition: string;
  readonly parameters: Record<string, unknown>;
}

const LINK = { customers: 'customer_id', contacts: 'contact_id' } as const;

/**
 * A condition on `customers` or `contacts` that keeps to those whom the person may see: of deals that they may see, and those
 * without deals; a contact without deals goes with its customer.
 */
export function visibleParties(person: Person, table: PartyTable): Condition {
  const seen = visibleDeals(person);
  if (seen.condition === 'true') return seen;
  const customer = `(${ownOrUnused('customers', seen.condition)})`;
  const ofCustomer = `(contacts.customer_id is null or exists (select from customers where customers.id = contacts.customer_id and ${customer}))`;
  const condition =
    table === 'customers'
      ? customer
      : `(${hasDeal('contacts', seen.condition)} or (not ${hasDeal('contacts', 'true')} and ${ofCustomer}))`;
  return { condition, parameters: seen.parameters };
}

const hasDeal = (table: PartyTable, which: string): string =>
  `exists (select from deals d where d.${LINK[table]} = ${table}.id and d.status <> 'voided' and ${which})`;

const ownOrUnused = (table: PartyTable, seen: string): string =>
  `${hasDeal(table, seen)} or not ${hasDeal(table, 'true')}`;

/** Throws where the person may not change the customer or contact: only who has a deal with it may. */
export async function requireOwnParty(tx: EntityManager, person: Person, table: PartyTable, id: string): Promise<void> {
  const [seen, deals] = [visibleParties(person, table), visibleDeals(person)];
  const [row] = await sql<{ mine: boolean }>(
    tx,
    `select ${deals.condition === 'true' ? 'true' : hasDeal(table, deals.condition)} as mine from ${table}
     where ${table}.id = :id and withdrawn_at is null and ${seen.condition}`,
    { id, ...seen.parameters, ...deals.parameters },
  );
  const what = table === 'customers' ? 'customer' : 'contact';
  if (!row) throw notFound(what);
  if (!row.mine) throw new Problem(403, `Only people whose team has a deal with this ${what} may change it.`);
}
