import type { deal as contract, TypeOf } from '@ladder/contract';
import type { DealId } from '@ladder/core';
import { type Deal, recordMerge, voidDeal } from '@ladder/core';
import type { EntityManager } from 'typeorm';
import { mayChange } from '../access/dealAccess.ts';
import type { Context } from '../context.ts';
import type { Reply } from '../http/reply.ts';
import { invalid, Problem } from '../problems/problem.ts';
import type { Person } from '../session/person.ts';
import { linkTo } from './linkTo.ts';
import { loadDeals, lockDeals } from './repository/loadDeals.ts';
import { runCommand } from './runCommand.ts';

/** Voids a deal; a duplicate is merged into the deal that it repeats: each journal names the other (S11). */
export async function voidOneDeal(
  context: Context,
  tx: EntityManager,
  person: Person,
  id: DealId,
  { text, duplicateOf }: TypeOf<typeof contract.voiding>,
): Promise<Reply> {
  const kept = duplicateOf === undefined ? null : await repeatedDeal(tx, person, id, duplicateOf);
  const detail = await runCommand(context, tx, person, id, ({ deal, setting, moment }) => {
    if (deal.status.state === 'voided') throw new Problem(409, 'This deal is voided already.');
    return voidDeal(deal, setting, moment, text, kept && linkTo(kept));
  });
  if (kept)
    await runCommand(context, tx, person, kept.id, ({ deal, setting, moment }) =>
      recordMerge(deal, setting, moment, linkTo({ id, name: detail.name })),
    );
  return { body: detail };
}

/** The deal that stays, locked together with its duplicate. */
async function repeatedDeal(tx: EntityManager, person: Person, duplicate: DealId, id: DealId): Promise<Deal> {
  const refuse = (detail: string): Problem => invalid([{ pointer: '/duplicateOf', detail }], 422);
  if (id === duplicate) throw refuse('A deal is no duplicate of itself.');
  await lockDeals(tx, [duplicate, id]);
  const [deal] = await loadDeals(tx, [id]);
  if (!deal || !mayChange(person, deal)) throw refuse('There is no such deal, or it is not yours to change.');
  if (deal.status.state === 'voided') throw refuse('That deal is voided itself.');
  return deal;
}
