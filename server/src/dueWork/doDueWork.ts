import { actor, type DealId, goOnByItself } from '@ladder/core';
import { type Context, inCommand } from '../context.ts';
import { loadDeals, lockDeals } from '../deals/repository/loadDeals.ts';
import { writeDeals } from '../deals/repository/writeDeals.ts';
import { momentOf } from '../deals/runCommand.ts';
import { loadSettings } from '../setting/repository/settings.ts';
import { dueDeals } from './repository.ts';

/** So many are looked for at once. */
const BATCH = 100;

/**
 * Does what has fallen due by the server's clock: steps that go on by themselves. Each deal in a transaction of its own, under
 * its lock, and looked at again there: so it is done once, whichever of several servers comes to it first, and a server that
 * is ended in the middle leaves it undone, to be found again. Gives how many deals were gone on with.
 */
export async function doDueWork(context: Context): Promise<number> {
  const tried = new Set<DealId>();
  for (;;) {
    const due = await dueDeals(context.dataSource, context.clock.now(), BATCH);
    const next = due.filter((id) => !tried.has(id));
    if (next.length === 0) return tried.size;
    for (const id of next) {
      tried.add(id);
      // One deal that cannot be gone on with keeps no other from it.
      await goOn(context, id).catch((error) => context.log.error({ err: error, deal: id }, 'due work was not done'));
    }
  }
}

const goOn = (context: Context, id: DealId): Promise<void> =>
  inCommand(context, async (tx) => {
    await lockDeals(tx, [id]);
    const [deal] = await loadDeals(tx, [id]);
    if (!deal) return;
    const setting = (await loadSettings(tx, [deal.version])).get(deal.version);
    if (!setting) throw new Error(`There is no version ${deal.version}`);
    const change = goOnByItself(deal, setting, momentOf(context, actor('process', deal.process)));
    if (change.deal !== deal) await writeDeals(tx, [{ before: deal, change }], setting.catalogue);
  });
