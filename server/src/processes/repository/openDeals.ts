import type { DealId, ProcessId, PublishReach, StageId, VersionId } from '@ladder/core';
import type { EntityManager } from 'typeorm';
import { openDealsOf } from '../../access/repository.ts';
import { pagesById } from '../../db/pagesById.ts';
import { asArray, at, type Connection, sql } from '../../db/sql.ts';

/* The open deals of a process: counted, gone through, and told apart by whether a publish concerns them. */

/** So many deals are judged at once: few enough that other answers come in between. */
export const BATCH = 50;

/** Ids of a process's open deals, in batches of a size that is judged at once. */
export async function* openDealBatches(connection: Connection, process: ProcessId): AsyncGenerator<readonly DealId[]> {
  for await (const deals of looks(connection, process, BATCH, `'surely'`, 'true', {})) yield deals.map(({ id }) => id);
}

/** An open deal, and whether a publish concerns it as far as its place and its findings tell. */
export interface LookedAt {
  readonly id: DealId;
  readonly concerned: 'no' | 'perhaps' | 'surely';
}

const AT_A_LOOK = 1_000;

/** Whose standing is looked at: of all open deals, or of those alone that follow the version that is live. */
export type LookedFor = 'all' | 'followers';

/** The open deals of a process, many at a time: of those that are looked for all, or those alone that may be concerned at all. */
export function lookAtOpenDeals(
  connection: Connection,
  process: ProcessId,
  reach: PublishReach,
  lookedFor: LookedFor,
  now: number,
): AsyncGenerator<readonly LookedAt[]> {
  const follows = lookedFor === 'followers' ? `not ${STAYS}` : 'true';
  const condition = reach.reach === 'none' ? STAYS : follows;
  const stages =
    'stages' in reach ? { stages: asArray(reach.stages), over: asArray(reach.stages.map(passedOver)) } : {};
  const requirements = 'requirements' in reach ? { requirements: asArray(reach.requirements), now: at(now) } : {};
  return looks(connection, process, AT_A_LOOK, CONCERNED[reach.reach], condition, { ...stages, ...requirements });
}

function looks(
  connection: Connection,
  process: ProcessId,
  limit: number,
  concerned: string,
  condition: string,
  parameters: Readonly<Record<string, unknown>>,
): AsyncGenerator<readonly LookedAt[]> {
  const page = (after: string) =>
    sql<LookedAt>(
      connection,
      `with looked as materialized (
         select d.id from deals d where d.process_id = :process and d.status = 'open' and ${condition} and d.id > :after order by d.id limit :limit
       ) select d.id, ${concerned} as concerned from looked join deals d using (id) order by d.id`,
      { ...parameters, process, after, limit },
    );
  return pagesById(page, ({ id }) => id);
}

/** Whoever stays on an older version is concerned by every publish that moves deals over. */
const STAYS = '(d.version_id is not null)';

/** Whether a deal's path leads into one of these stages, or over it. */
const CAME_BY = `(d.stage_id = any(:stages::text[]) or string_to_array(d.path_text, ' ') && :stages::text[] or d.path @> any(:over::jsonb[]))`;

/** What a path contains that leads over a stage. */
const passedOver = (stage: StageId): string => JSON.stringify([{ over: [stage] }]);

/** A waiver ends with what it was granted for. */
const IS_FOUND = `((select true from findings f where f.deal_id = d.id and f.closed_at > :now and f.requirement = any(:requirements::text[]) limit 1) is not null
  or exists (select from waivers w where w.deal_id = d.id and w.requirement = any(:requirements::text[])))`;

const CONCERNED: Readonly<Record<PublishReach['reach'], string>> = {
  none: `'surely'`,
  stages: `case when ${STAYS} or d.attempt is not null or ${CAME_BY} then 'surely' else 'no' end`,
  requirements: `case when ${STAYS} then 'surely' when d.attempt is null and not ${CAME_BY} then 'no' when ${IS_FOUND} then 'surely' else 'perhaps' end`,
  all: `'surely'`,
};

/** How many open deals a process has. */
export const countOpenDeals = (connection: Connection, process: ProcessId): Promise<number> =>
  counted(connection, openDealsOf(':process'), process);

/** How many of them stay on an older version. */
export const countStaying = (connection: Connection, process: ProcessId): Promise<number> =>
  counted(
    connection,
    `(select count(*)::int from deals d where process_id = :process and status = 'open' and ${STAYS})`,
    process,
  );

async function counted(connection: Connection, deals: string, process: ProcessId): Promise<number> {
  const [row] = await sql<{ deals: number }>(connection, `select ${deals} as deals`, { process });
  return row?.deals ?? 0;
}

/**
 * Open deals that follow the process stay on a version from an instant on, all or those in some stages. Version and instant
 * are those of the publish that is being made.
 */
export async function letStay(
  tx: EntityManager,
  process: ProcessId,
  version: VersionId,
  since: Date,
  stages: readonly StageId[] | 'all',
): Promise<void> {
  const where = stages === 'all' ? {} : { stages: asArray(stages) };
  await sql(
    tx,
    `with stayed as (
       update deals set version_id = :version::uuid where process_id = :process and status = 'open' and version_id is null
         and ${stages === 'all' ? 'true' : 'stage_id = any(:stages::text[])'} returning id
     )
     insert into deal_stays (deal_id, version_id, from_at) select id, :version::uuid, :since from stayed`,
    { process, version, since, ...where },
  );
}

/** How many open deals stand in each of these stages, the longest waiting first; those without any are left out. */
export const openDealsIn = (
  tx: EntityManager,
  processId: ProcessId,
  stages: readonly StageId[],
): Promise<{ id: StageId; openDeals: number }[]> =>
  sql(
    tx,
    `select d.stage_id as id, count(*)::int as "openDeals" from deals d
     where d.process_id = :processId and d.status = 'open' and d.stage_id = any(:stages::text[]) group by d.stage_id order by min(d.entered_at), d.stage_id`,
    { processId, stages: asArray(stages) },
  );
