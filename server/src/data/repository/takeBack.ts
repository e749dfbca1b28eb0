import type { DealId, JournalBody } from '@ladder/core';
import type { EntityManager } from 'typeorm';
import { at, sql } from '../../db/sql.ts';

export async function dealsOf(
  tx: EntityManager,
  id: string,
): Promise<{ made: readonly DealId[]; updated: readonly DealId[] }> {
  const made = await sql<{ id: DealId }>(
    tx,
    `select id from deals where import_id = :id and status <> 'voided' order by id`,
    { id },
  );
  const updated = await sql<{ id: DealId }>(
    tx,
    `select deal_id as id from import_updates where import_id = :id order by deal_id`,
    { id },
  );
  return { made: made.map((row) => row.id), updated: updated.map((row) => row.id) };
}

/** Customers and contacts that the import made and nothing else uses are offered no longer. */
export async function withdrawParties(tx: EntityManager, id: string, now: number): Promise<void> {
  await sql(
    tx,
    `update contacts c set withdrawn_at = :now where c.import_id = :id and c.withdrawn_at is null
       and not exists (select from deals d where d.contact_id = c.id and d.status <> 'voided')`,
    { id, now: at(now) },
  );
  await sql(
    tx,
    `update customers c set withdrawn_at = :now where c.import_id = :id and c.withdrawn_at is null
       and not exists (select from deals d where d.customer_id = c.id and d.status <> 'voided')
       and not exists (select from contacts o where o.customer_id = c.id and o.withdrawn_at is null)`,
    { id, now: at(now) },
  );
}

/** What the import wrote into the journals of deals that it updated, the newest first. */
export async function writtenBy(tx: EntityManager, id: string): Promise<ReadonlyMap<string, readonly JournalBody[]>> {
  const rows = await sql<{ deal: DealId; bodies: JournalBody[] }>(
    tx,
    `select u.deal_id as deal, json_agg(j.body order by j.seq desc) as bodies
     from import_updates u join journal j on j.deal_id = u.deal_id and j.seq > u.seq_before and j.seq <= u.journal_seq
     where u.import_id = :id group by u.deal_id`,
    { id },
  );
  return new Map(rows.map(({ deal, bodies }) => [deal, bodies]));
}

/** How many of an import's deals were worked on since. */
export async function countTouched(tx: EntityManager, id: string): Promise<number> {
  const [row] = await sql<{ touched: number }>(
    tx,
    `select (select count(*)::int from deals d join deal_heads h on h.deal_id = d.id where d.import_id = :id and h.journal_count > 1)
       + (select count(*)::int from import_updates u join deal_heads h on h.deal_id = u.deal_id where u.import_id = :id and h.journal_count > u.journal_seq) as touched`,
    { id },
  );
  return row?.touched ?? 0;
}
