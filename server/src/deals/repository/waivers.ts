import type { ProcessId } from '@ladder/core';
import type { EntityManager } from 'typeorm';
import { asArray, at, sql } from '../../db/sql.ts';

interface WaivedOften {
  readonly id: string;
  readonly granted: number;
  readonly refused: number;
  /** Of how many deals it was granted. */
  readonly deals: number;
}

/** How often requirements were waived in a process since an instant. */
export async function countWaived(
  tx: EntityManager,
  process: ProcessId,
  requirements: readonly string[],
  since: number,
): Promise<readonly WaivedOften[]> {
  const rows = await sql<WaivedOften>(
    tx,
    `select w.requirement as id, count(*) filter (where w.how = 'granted')::int as granted, count(*) filter (where w.how = 'refused')::int as refused,
       count(distinct w.deal_id) filter (where w.how = 'granted')::int as deals
     from waivers w join deals d on d.id = w.deal_id
     where w.requirement = any(:requirements::text[]) and w.asked_at >= :since and d.process_id = :process and d.status <> 'voided' group by 1`,
    { requirements: asArray(requirements), since: at(since), process },
  );
  return requirements.map((id) => rows.find((row) => row.id === id) ?? { id, granted: 0, refused: 0, deals: 0 });
}
