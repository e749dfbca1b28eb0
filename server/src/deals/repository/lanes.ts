import type { ProcessId, Stage, StageId, StoredDocument, VersionId } from '@ladder/core';
import type { EntityManager } from 'typeorm';
import { visibleDeals } from '../../access/repository.ts';
import { kept } from '../../db/keepingClient.ts';
import { plannedOnce } from '../../db/plannedOnce.ts';
import { asArray, type Connection, sql } from '../../db/sql.ts';
import { notFound } from '../../problems/problem.ts';
import type { Person } from '../../session/person.ts';
import { CARD_COLUMNS, CARD_JOINS, type CardRow } from './cards.ts';
import { keptOfWhole, type OpenBook } from './openBook.ts';

export interface ReasonCount {
  readonly outcome: string;
  readonly reasons: number;
  readonly followUpReasons: number;
}

export interface LiveRow {
  readonly name: string;
  readonly version: VersionId | null;
  readonly document: StoredDocument | null;
  readonly reasons: readonly ReasonCount[];
  readonly asks_next: boolean;
  readonly asks_tasks: boolean;
}

export async function liveProcess(connection: Connection, process: ProcessId): Promise<LiveRow> {
  const [row] = await sql<LiveRow>(
    connection,
    kept(`select p.name, v.id as version, v.document, p.house_rules->'no_next_action' is not null as asks_next, p.task_fates->>'forward' = 'ask' as asks_tasks,
       (select coalesce(json_agg(r), '[]') from (select outcome, count(*)::int as reasons, count(*) filter (where asks_follow_up)::int as "followUpReasons"
          from process_reasons where process_id = p.id and not withdrawn group by outcome) r) as reasons
     from processes p left join process_versions v on v.process_id = p.id and v.state = 'live' where p.id = :process`),
    { process },
  );
  if (!row) throw notFound('process');
  return row;
}

const CARD_ORDER = `(d.standing = 'held') desc, d.entered_day, d.deal_id`;

/* Of each stage so many by the index of their order, so that no stage is gone through to its end: of few deals all are looked at. */
const CARDS = (book: OpenBook): string => {
  const { condition, few } = book;
  const foremost = few
    ? `(select * from (select d.*, row_number() over (partition by d.stage_id order by ${CARD_ORDER}) as place from deal_states d
         where d.stage_id = any(:stages::text[]) and ${condition}) placed where place <= :most)`
    : `unnest(:stages::text[]) as s (id)
       cross join lateral (select * from deal_states d where d.stage_id = s.id and ${condition} order by ${CARD_ORDER} limit :most)`;
  return keptOfWhole(book, `select ${CARD_COLUMNS} from ${foremost} d ${CARD_JOINS} order by d.entered_day, d.deal_id`);
};

export interface EndedRow {
  readonly outcome: string;
  readonly count: number;
  readonly minor: number;
}

/** Closed deals count with the value that they closed with, at the rate of that day, for whose they were then (S32). */
export async function endedThisMonth(
  connection: Connection,
  person: Person,
  process: ProcessId,
  today: string,
): Promise<readonly EndedRow[]> {
  const seen = visibleDeals(person);
  return sql<EndedRow>(
    connection,
    `select d.outcome_id as outcome, count(*)::int as count, coalesce(sum(d.reporting_minor), 0)::float8 as minor from moves d
     where d.counts and d.kind in ('won', 'lost') and d.process_id = :process and d.day >= date_trunc('month', :today::date)::date and ${seen.condition} group by 1`,
    { process, today, ...seen.parameters },
  );
}

/** Of each stage the cards that matter most: held ones first, then the oldest. */
export function findLaneCards(
  tx: EntityManager,
  book: OpenBook,
  stages: readonly StageId[],
  most: number,
): Promise<CardRow[]> {
  const found = () => sql<CardRow>(tx, CARDS(book), { ...book.parameters, stages: asArray(stages), most });
  return book.whole ? plannedOnce(tx, found) : found();
}

/** All stages that versions of a process ever had, as the newest says first. */
export async function stagesOfVersions(connection: Connection, process: ProcessId): Promise<readonly Stage[]> {
  const versions = await sql<{ stages: Stage[] }>(
    connection,
    `select document->'stages' as stages from process_versions where process_id = :process and state <> 'draft' order by number desc`,
    { process },
  );
  return versions.flatMap(({ stages }) => stages);
}
