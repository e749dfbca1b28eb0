import type { Change, Deal, DealId, Moment, Setting } from '@ladder/core';
import type { EntityManager } from 'typeorm';
import { maySee, requireChange } from '../access/dealAccess.ts';
import type { Context } from '../context.ts';
import { notFound } from '../problems/problem.ts';
import type { Person } from '../session/person.ts';
import { loadSettings } from '../setting/repository/settings.ts';
import { loadDeals, lockDeals } from './repository/loadDeals.ts';
import { type DealWrite, writeDeals } from './repository/writeDeals.ts';
import { momentNow } from './runCommand.ts';

/** Changes several deals that the person may change, in one transaction: all of them, or none. */
export async function changeEach(
  context: Context,
  tx: EntityManager,
  person: Person,
  ids: readonly DealId[],
  decide: (deal: Deal, setting: Setting, moment: Moment) => Change,
): Promise<readonly DealWrite[]> {
  await lockDeals(tx, ids);
  const deals = new Map((await loadDeals(tx, ids)).map((deal) => [deal.id, deal]));
  const settings = await loadSettings(
    tx,
    [...deals.values()].map(({ version }) => version),
  );
  const writes: DealWrite[] = [];
  for (const id of ids) {
    const deal = deals.get(id);
    const setting = deal && settings.get(deal.version);
    if (!deal || !setting || !maySee(person, deal)) throw notFound('deal');
    requireChange(person, deal);
    const write = { before: deal, change: decide(deal, setting, momentNow(context, person, deal)) };
    await writeDeals(tx, [write], setting.catalogue);
    writes.push(write);
  }
  return writes;
}
