import type { EntityManager } from 'typeorm';
import { asArray, sql } from '../../db/sql.ts';
import type { DealWrite } from '../../deals/repository/writeDeals.ts';
import type { KnownDeal } from '../importRun.ts';

/** Deals that have one of these external ids, in whatever process. */
export const findByExternalIds = (tx: EntityManager, externalIds: readonly string[]): Promise<KnownDeal[]> =>
  sql<KnownDeal>(
    tx,
    `select id, external_id as external, process_id as process, customer_id as customer from deals
     where status <> 'voided' and external_id = any(:externalIds::text[])`,
    { externalIds: asArray(externalIds) },
  );

export const insertBadRows = (tx: EntityManager, rows: readonly object[]): Promise<unknown> =>
  sql(tx, `insert into import_bad_rows select * from jsonb_populate_recordset(null::import_bad_rows, :rows)`, { rows });

/** Remembers which journal entries of each deal are the import's, so that it can be taken back. */
export async function noteUpdates(tx: EntityManager, importId: string, writes: readonly DealWrite[]): Promise<void> {
  const rows = writes.map(({ change: { deal, records } }) => ({
    deal: deal.id,
    entries: records.filter(({ kind }) => kind === 'journal').length,
  }));
  await sql(
    tx,
    `insert into import_updates (import_id, deal_id, journal_seq, seq_before)
     select :importId::uuid, h.deal_id, h.journal_count, h.journal_count - r.entries
     from jsonb_to_recordset(:rows) as r(deal uuid, entries integer) join deal_heads h on h.deal_id = r.deal`,
    { importId, rows },
  );
}
