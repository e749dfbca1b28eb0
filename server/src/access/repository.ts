import type { EntityManager } from 'typeorm';
import { asArray, sql } from '../db/sql.ts';
import type { Person } from '../session/person.ts';
import { ownersSeen, seesAll } from './dealAccess.ts';

export type PartyTable = 'customers' | 'contacts';

export interface Condition {
  readonly condition: string;
  readonly parameters: Record<string, unknown>;
}

export const LINK = { customers: 'customer_id', contacts: 'contact_id' } as const;

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

/** Whether the person has a deal with the customer or contact; null where they may not see it. */
export async function findOwnParty(
  tx: EntityManager,
  person: Person,
  table: PartyTable,
  id: string,
): Promise<{ readonly mine: boolean } | null> {
  const [seen, deals] = [visibleParties(person, table), visibleDeals(person)];
  const [row] = await sql<{ mine: boolean }>(
    tx,
    `select ${deals.condition === 'true' ? 'true' : hasDeal(table, deals.condition)} as mine from ${table}
     where ${table}.id = :id and withdrawn_at is null and ${seen.condition}`,
    { id, ...seen.parameters, ...deals.parameters },
  );
  return row ?? null;
}

/** How many open deals a process has, by the expression of its id: each has one state that was so by its last change. */
export const openDealsOf = (process: string): string =>
  `(select count(*)::int from deal_states where process_id = ${process} and status = 'open' and shown_from = '-infinity')`;

/** A condition on `deals d` that keeps to what the person may see, as `maySee` decides it, and its parameters. */
export function visibleDeals(person: Person): { condition: string; parameters: Record<string, unknown> } {
  if (seesAll(person)) return { condition: 'true', parameters: {} };
  const { hiddenProcesses: hidden = [] } = person;
  const ofTeams = 'd.team_id = any(:seenTeams::uuid[])';
  const ofSeen = hidden.length === 0 ? ofTeams : `${ofTeams} and d.process_id <> all(:hiddenProcesses::uuid[])`;
  return {
    condition: `(${ofSeen} or d.owner_id = any(:seenOwners::uuid[]))`,
    parameters: {
      seenTeams: asArray(person.teams),
      seenOwners: asArray(ownersSeen(person)),
      ...(hidden.length === 0 ? {} : { hiddenProcesses: asArray(hidden) }),
    },
  };
}

/**
 * Ids of the deals that the person may see, as far as `which` says so of `d` too: by the indexes of whose deals are, which
 * have all that is asked here. Looked at deal by deal, everyone else's would be gone through.
 */
export function seenDealIds(person: Person, which: string): Condition {
  const idsOf = (whose: string): string => `select d.id from deals d where ${whose} and ${which}`;
  const { parameters } = visibleDeals(person);
  if (seesAll(person)) return { condition: idsOf('true'), parameters };
  const notHidden = 'hiddenProcesses' in parameters ? 'd.process_id <> all(:hiddenProcesses::uuid[])' : 'true';
  return {
    condition: `${idsOf(`d.team_id = any(:seenTeams::uuid[]) and ${notHidden}`)} union all ${idsOf('d.owner_id = any(:seenOwners::uuid[])')}`,
    parameters,
  };
}
