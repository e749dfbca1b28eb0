import type { Deal } from '@ladder/core';
import type { EntityManager } from 'typeorm';
import { mayChange } from '../access/dealAccess.ts';
import { findAccountWithAccess } from '../people/repository.ts';
import { invalid } from '../problems/problem.ts';

/**
 * Looks up someone to whom work on deals is to fall, before any deal is locked. Gives what throws, at that place of the request,
 * where they are not there any more or may not change a deal.
 */
export async function holderOf(
  tx: EntityManager,
  id: string,
  pointer: string,
): Promise<(deal: Pick<Deal, 'values' | 'name' | 'process'>) => void> {
  const account = await findAccountWithAccess(tx, id);
  const wrong = (detail: string) => invalid([{ pointer, detail }]);
  return (deal) => {
    if (!account) throw wrong('There is no such person.');
    if (!account.active) throw wrong(`${account.name} has left. Choose someone else.`);
    if (!mayChange(account, deal))
      throw wrong(`${account.name} may not change “${deal.name}”. Choose someone of its team.`);
  };
}
