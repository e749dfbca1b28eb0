import type { DealId, FindingKind, ProcessId, Stage, StageId } from '@ladder/core';
import type { EntityManager } from 'typeorm';
import { kept } from '../db/keepingClient.ts';
import { type Connection, sql } from '../db/sql.ts';
import { stagesOfVersions } from '../deals/repository/lanes.ts';
import { CORRECTED_BY, type OpenBook, type Scope } from '../deals/repository/openBook.ts';

const STAYING = `select id from deals where process_id = :process::uuid and status = 'open' and version_id is not null`;
const STAYED = `select s.deal_id as id from deal_stays s join process_versions v on v.id = s.version_id
  where v.process_id = :process::uuid and s.from_at <= :now and s.to_at > :now`;

/** Open deals that stay on an older version, or did at the instant of a past book. */
export async function countStaying(
  connection: Connection,
  { condition, corrections, parameters }: Pick<OpenBook, 'condition' | 'corrections' | 'parameters'>,
  when: 'now' | 'past',
): Promise<number> {
  const counted = (what: string, which: string): string =>
    `select ${what} as deals from staying join deal_states d on d.deal_id = staying.id where ${which}`;
  const parts = [
    counted('count(*)', condition),
    ...(corrections === null ? [] : [counted(`sum(${CORRECTED_BY})`, corrections)]),
  ];
  const [row] = await sql<{ deals: number }>(
    connection,
    kept(`with staying as materialized (${when === 'now' ? STAYING : STAYED})
     select coalesce(sum(deals), 0)::int as deals from (${parts.join(' union all ')}) counted`),
    parameters,
  );
  return row?.deals ?? 0;
}

/** The live version's stages in order, then those that only older versions have and deals are still in. */
export async function stageNames(
  connection: Connection,
  process: ProcessId,
  live: readonly Stage[],
  used: readonly StageId[],
): Promise<readonly { id: StageId; name: string }[]> {
  const missing = [...new Set(used)].filter((id) => !live.some((stage) => stage.id === id));
  if (missing.length === 0) return live;
  const all = await stagesOfVersions(connection, process);
  return [
    ...live,
    ...missing.map((id) => ({ id, name: all.find((stage) => stage.id === id)?.name ?? 'A stage that is gone' })),
  ];
}

export interface FindingKeyRow {
  readonly deal: DealId;
  readonly key: string;
  readonly place: number;
  readonly opened: string;
  readonly stage: StageId;
  readonly minor: number | null;
  readonly currency: string | null;
}

export interface KeyQuery {
  readonly stage?: StageId;
  readonly kind?: FindingKind;
  readonly limit: number;
  readonly cursor: readonly [number, string, string, string] | null;
}

/* Those that hold come first, then the oldest, as the index of standing findings has them. */
const ORDER = `(f.level = 'flag'), f.opened_at, f.deal_id, f.key`;

/** The page of those that stand and end so: apart, for few of today's have an end that is known, and the others have an index of their own. */
const pageOf = (condition: string, ends: string): string => `
  (select f.deal_id as deal, f.key, case f.level when 'hold' then 0 else 1 end as place, f.opened_at, f.opened_at::text as opened, d.stage_id as stage,
     d.value_minor::float8 as minor, d.currency
   from findings f join deal_states d on d.deal_id = f.deal_id
   where f.process_id = :process::uuid and ${ends} and f.opened_at <= :now and ${condition}
     and (:stage::text is null or d.stage_id = :stage::text) and (:kind::text is null or f.kind = :kind::text)
     and (:place::int is null or (${ORDER}) > (:place::int = 1, :opened::timestamptz, :deal::uuid, :key::text))
   order by ${ORDER} limit :limit)`;

/** Which findings stand on a page of the list. */
export async function findingKeys(
  tx: EntityManager,
  { condition, parameters }: Scope,
  { stage, kind, limit, cursor }: KeyQuery,
): Promise<FindingKeyRow[]> {
  return sql<FindingKeyRow>(
    tx,
    `select * from (
       ${pageOf(condition, `f.closed_at = 'infinity'`)} union all ${pageOf(condition, `f.closed_at > :now and f.closed_at < 'infinity'`)}
     ) found order by place, opened_at, deal, key limit :limit`,
    {
      ...parameters,
      stage,
      kind,
      limit,
      place: cursor?.[0],
      opened: cursor?.[1],
      deal: cursor?.[2],
      key: cursor?.[3],
    },
  );
}
