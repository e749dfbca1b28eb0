import type { DealId, ProcessId } from '@ladder/core';
import { type Moment, rejudgeDeal } from '@ladder/core';
import type { EntityManager } from 'typeorm';
import { loadDeals, lockDeals } from '../deals/repository/loadDeals.ts';
import { writeDeals } from '../deals/repository/writeDeals.ts';
import { lockProcess } from '../setting/repository/lockProcess.ts';
import { loadSettings } from '../setting/repository/settings.ts';
import { openDealBatches } from './repository/openDeals.ts';

/** Judges open deals again after something beside their facts has changed. */
export async function rejudgeDeals(tx: EntityManager, ids: readonly DealId[], moment: Moment): Promise<void> {
  await lockDeals(tx, ids);
  const deals = await loadDeals(tx, ids);
  const settings = await loadSettings(
    tx,
    deals.map(({ version }) => version),
  );
  for (const setting of settings.values()) {
    const writes = deals
      .filter(({ version }) => version === setting.version)
      .map((before) => ({ before, change: rejudgeDeal(before, setting, moment) }));
    await writeDeals(tx, writes, setting.catalogue);
  }
}

/** Judges all open deals of a process again; a publish or an import of it is waited for. Tells how many after each batch. */
export async function rejudgeProcess(
  tx: EntityManager,
  process: ProcessId,
  moment: Moment,
  onBatch: (done: number) => Promise<void>,
): Promise<number> {
  await lockProcess(tx, process, 'publish');
  let done = 0;
  for await (const ids of openDealBatches(tx, process)) {
    await rejudgeDeals(tx, ids, moment);
    done += ids.length;
    await onBatch(done);
  }
  return done;
}
