import type { ProcessId, Stage, StageId, Standing, StoredDocument, VersionId } from '@ladder/core';
import type { EntityManager } from 'typeorm';
import { visibleDeals } from '../../access/repository.ts';
import { at, sql } from '../../db/sql.ts';
import { notFound } from '../../problems/problem.ts';
import type { Person } from '../../session/person.ts';
import { LACKS_RATE, REPORTING_MINOR, REPORTING_RATES } from '../../setting/repository/rates.ts';
import { CARD_COLUMNS, CARD_JOINS, type CardRow } from './cards.ts';
import { type DealFilter, filterDeals } from './filter.ts';
import { PAST_TARGET, STANDINGS_OF_PROCESS } from './standing.ts';

export interface GroupRow {
  readonly stage: StageId;
  readonly age: number;
  readonly standing: Standing;
  readonly count: number;
  readonly minor: number;
  readonly past: number;
  readonly without_rate: number;
}

export interface ReasonCount {
  readonly outcome: string;
  readonly reasons: number;
  readonly followUpReasons: number;
}

export interface LiveRow {
  readonly name: string;
  readonly version: VersionId | null;
  readonly document: StoredDocument | null;
  readonly all_open: number;
  readonly reasons: readonly ReasonCount[];
}

export async function liveProcess(tx: EntityManager, person: Person, process: ProcessId): Promise<LiveRow> {
  const seen = visibleDeals(person);
  const [row] = await sql<LiveRow>(
    tx,
    `select p.name, v.id as version, v.document,
       (select count(*)::int from deals d where d.process_id = p.id and d.status = 'open' and ${seen.condition}) as all_open,
       (select coalesce(json_agg(r), '[]') from (select outcome, count(*)::int as reasons, count(*) filter (where asks_follow_up)::int as "followUpReasons"
          from process_reasons where process_id = p.id and not withdrawn group by outcome) r) as reasons
     from processes p left join process_versions v on v.process_id = p.id and v.state = 'live' where p.id = :process`,
    { process, ...seen.parameters },
  );
  if (!row) throw notFound('process');
  return row;
}

export function laneScope(
  person: Person,
  process: ProcessId,
  query: DealFilter,
  today: string,
  now: number,
  currency: { readonly currency: string; readonly digits: Readonly<Record<string, number>> },
): { condition: string; parameters: Record<string, unknown> } {
  const [seen, filter] = [visibleDeals(person), filterDeals(query)];
  return {
    condition: `d.process_id = :process::uuid and d.status = 'open' and ${seen.condition} and ${filter.condition}`,
    parameters: { ...seen.parameters, ...filter.parameters, process, now: at(now), today, ...currency },
  };
}

const GROUPS = (condition: string): string => `
  with s as (${STANDINGS_OF_PROCESS}), ${REPORTING_RATES}
  select d.stage_id as stage, greatest(0, :today::date - d.entered_day) as age, coalesce(s.standing, 'clear') as standing, count(*)::int as count,
    coalesce(sum(${REPORTING_MINOR}), 0)::float8 as minor,
    count(*) filter (where ${PAST_TARGET})::int as past,
    count(*) filter (where ${LACKS_RATE})::int as without_rate
  from deals d left join s on s.deal_id = d.id left join r on r.from_currency = d.currency where ${condition} group by 1, 2, 3`;

const CARDS = (condition: string): string => `
  with s as (${STANDINGS_OF_PROCESS}), ranked as (
    select d.id, row_number() over (partition by d.stage_id order by (coalesce(s.standing, 'clear') = 'held') desc, d.entered_day, d.id) as place
    from deals d left join s on s.deal_id = d.id where ${condition}
  )
  select ${CARD_COLUMNS} from ranked join deals d on d.id = ranked.id ${CARD_JOINS} left join s on s.deal_id = d.id where place <= :most order by d.entered_day, d.id`;

export interface EndedRow {
  readonly outcome: string;
  readonly count: number;
  readonly minor: number;
}

/** Closed deals count with the value that they closed with, at the rate of that day. */
export async function endedThisMonth(
  tx: EntityManager,
  person: Person,
  process: ProcessId,
  today: string,
): Promise<readonly EndedRow[]> {
  const seen = visibleDeals(person);
  return sql<EndedRow>(
    tx,
    `select d.outcome_id as outcome, count(*)::int as count, coalesce(sum(m.reporting_minor), 0)::float8 as minor
     from deals d left join moves m on m.deal_id = d.id and m.seq = d.move_count
     where d.process_id = :process and d.status in ('won', 'lost') and d.closed_day >= date_trunc('month', :today::date) and ${seen.condition} group by 1`,
    { process, today, ...seen.parameters },
  );
}

export interface Scope {
  readonly condition: string;
  readonly parameters: Readonly<Record<string, unknown>>;
}

export const findGroups = (tx: EntityManager, { condition, parameters }: Scope): Promise<GroupRow[]> =>
  sql<GroupRow>(tx, GROUPS(condition), parameters);

/** Of each stage the cards that matter most: held ones first, then the oldest. */
export const findLaneCards = (tx: EntityManager, { condition, parameters }: Scope, most: number): Promise<CardRow[]> =>
  sql<CardRow>(tx, CARDS(condition), { ...parameters, most });

/** All stages that versions of a process ever had, as the newest says first. */
export async function stagesOfVersions(tx: EntityManager, process: ProcessId): Promise<readonly Stage[]> {
  const versions = await sql<{ stages: Stage[] }>(
    tx,
    `select document->'stages' as stages from process_versions where process_id = :process and state <> 'draft' order by number desc`,
    { process },
  );
  return versions.flatMap(({ stages }) => stages);
}
