import type { ProcessId } from '@ladder/core';
import type { EntityManager } from 'typeorm';
import { at, sql } from '../../db/sql.ts';

/** So many that were written one by one are added up with the rest as they are read. */
const MOST_UNFOLDED = 1_000;

/** What comes about later is folded when it has: another server's clock may be behind. */
const BEHIND_MS = 3_600_000;

/**
 * Puts one row in place of those of `open_sums` that are added up whenever they are read. Each is taken away and counted by
 * whoever takes it, so that what is written meanwhile stays; of two servers one leaves it to the other.
 */
export async function foldSums(tx: EntityManager, now: number, most = MOST_UNFOLDED): Promise<void> {
  const until = at(now - BEHIND_MS);
  const processes = await sql<{ id: ProcessId }>(
    tx,
    `select id from processes p where (
       select count(*) from (select from open_sums where process_id = p.id and at <= :until and not folded limit :most + 1) unfolded
     ) > :most and pg_try_advisory_xact_lock(hashtextextended('fold ' || id, 0))`,
    { until, most },
  );
  for (const { id } of processes)
    await sql(
      tx,
      `with taken as (delete from open_sums where process_id = :process and at <= :until returning *)
       insert into open_sums (process_id, at, sum_key, deals, valued, minor, folded)
       select process_id, '-infinity', sum_key, sum(deals), sum(valued), sum(minor), true
       from taken group by process_id, sum_key
       having sum(deals) <> 0 or sum(valued) <> 0 or sum(minor) <> 0`,
      { process: id, until },
    );
}
