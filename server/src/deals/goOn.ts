import { type Deal, type DealId, type DealLink, isClosed, recordNext } from '@ladder/core';
import type { EntityManager } from 'typeorm';
import { mayChange } from '../access/dealAccess.ts';
import type { Context } from '../context.ts';
import { invalid } from '../problems/problem.ts';
import type { Person } from '../session/person.ts';
import { loadDeals, lockDeals } from './repository/loadDeals.ts';
import { runCommand } from './runCommand.ts';

/** The closed deal that a new one goes on from, locked, so that nobody opens it again meanwhile. */
export async function closedDeal(tx: EntityManager, person: Person, id: DealId): Promise<Deal> {
  const refuse = (detail: string) => invalid([{ pointer: '/from', detail }], 422);
  await lockDeals(tx, [id]);
  const [deal] = await loadDeals(tx, [id]);
  if (!deal || !mayChange(person, deal)) throw refuse('There is no such deal, or it is not yours to change.');
  if (!isClosed(deal.status)) throw refuse('A new deal goes on from one that was closed as won or lost.');
  return deal;
}

/** Tells its journal which deal was begun from it. */
export async function tellNext(
  context: Context,
  tx: EntityManager,
  person: Person,
  id: DealId,
  next: DealLink,
): Promise<void> {
  await runCommand(context, tx, person, id, ({ deal, setting, moment }) => {
    const told = recordNext(deal, setting, moment, next);
    if (!told.ok) throw new Error('A deal that is locked was opened again');
    return told.value;
  });
}
