import type { EntityManager } from 'typeorm';
import { notFound, Problem } from '../problems/problem.ts';
import type { Person } from '../session/person.ts';
import { findOwnParty, type PartyTable } from './repository.ts';

/** Throws where the person may not change the customer or contact: only who has a deal with it may. */
export async function requireOwnParty(tx: EntityManager, person: Person, table: PartyTable, id: string): Promise<void> {
  const row = await findOwnParty(tx, person, table, id);
  const what = table === 'customers' ? 'customer' : 'contact';
  if (!row) throw notFound(what);
  if (!row.mine) throw new Problem(403, `Only people whose team has a deal with this ${what} may change it.`);
}
