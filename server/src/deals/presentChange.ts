import type { Change } from '@ladder/core';
import type { EntityManager } from 'typeorm';
import type { Context } from '../context.ts';
import { notFound } from '../problems/problem.ts';
import type { Person } from '../session/person.ts';
import { loadSetting } from '../setting/settings.ts';
import { loadDeals } from './loadDeals.ts';
import { type DealDetail, presentDeal } from './present.ts';

/** The deal as it stands after a change, read back in the same transaction. */
export async function presentChange(
  context: Context,
  tx: EntityManager,
  person: Person,
  change: Change,
): Promise<DealDetail> {
  const [deal] = await loadDeals(tx, [change.deal.id]);
  if (!deal) throw notFound('deal');
  return presentDeal(context, tx, person, deal, await loadSetting(tx, deal.version));
}
