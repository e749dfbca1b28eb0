import type { DealId } from '@ladder/core';
import { at, type Connection, sql } from '../db/sql.ts';

/** Deals with a step that goes on by itself by now, the longest due first. */
export async function dueDeals(connection: Connection, now: number, limit: number): Promise<readonly DealId[]> {
  const rows = await sql<{ id: DealId }>(
    connection,
    `select deal_id as id from (
       select deal_id, goes_on_at from step_runs
       where goes_on_at <= :now and goes_on_at is not null and ended_at is null and not taken_back order by goes_on_at limit :limit
     ) due group by deal_id order by min(goes_on_at)`,
    { now: at(now), limit },
  );
  return rows.map(({ id }) => id);
}
