import { type Moment, rejudgeDeal } from '@ladder/core';
import type { EntityManager } from 'typeorm';
import { sql } from '../db/sql.ts';
import { loadDeals, lockDeals } from '../deals/loadDeals.ts';
import { writeDeals } from '../deals/writeDeals.ts';
import { lockProcess } from '../setting/lockProcess.ts';
import { loadSettings } from '../setting/settings.ts';

/** Small enough that other answers come in between. */
const BATCH = 100;

/** Ids of a process's open deals, in batches of a size that is judged at once. */
export async function* openDealBatches(tx: EntityManager, process: string): AsyncGenerator<readonly string[]> {
  for (let after = '00000000-0000-0000-0000-000000000000'; ; ) {
    const rows = await sql<{ id: string }>(
      tx,
      `select id from deals where process_id = :process and status = 'open' and id > :after order by id limit :limit`,
      { process, after, limit: BATCH },
    );
    const last = rows.at(-1);
    if (!last) return;
    yield rows.map(({ id }) => id);
    after = last.id;
  }
}

/** Judges open deals again after something beside their facts has changed. */
export async function rejudgeDeals(tx: EntityManager, ids: readonly string[], moment: Moment): Promise<void> {
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

/** Judges all open deals of a process again; a publish or an import of it is waited for. */
export async function rejudgeProcess(tx: EntityManager, process: string, moment: Moment): Promise<void> {
  await lockProcess(tx, process, 'publish');
  for await (const ids of openDealBatches(tx, process)) await rejudgeDeals(tx, ids, moment);
}
