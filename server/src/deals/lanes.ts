import type { lanes as contract, TypeOf } from '@ladder/contract';
import {
  type Calendar,
  calendarDaysOf,
  countedMedian,
  localDay,
  type Outcome,
  readDocument,
  type Stage,
  type Standing,
  type StoredDocument,
  weightedMinor,
} from '@ladder/core';
import type { EntityManager } from 'typeorm';
import { visibleDeals } from '../access/dealAccess.ts';
import { type Context, inTransaction } from '../context.ts';
import { at, sql } from '../db/sql.ts';
import { notFound } from '../problems/problem.ts';
import { organisation } from '../session/organisation.ts';
import type { Person } from '../session/person.ts';
import { LACKS_RATE, minorDigitsInUse, REPORTING_MINOR, REPORTING_RATES } from '../setting/rates.ts';
import { calendarOf } from '../setting/settings.ts';
import { versionName } from '../setting/versions.ts';
import { CARD_COLUMNS, CARD_JOINS, type CardRow, type DealCard, toCards } from './cards.ts';
import { type DealFilter, filterDeals } from './filter.ts';
import { PAST_TARGET, STANDINGS_OF_PROCESS } from './standing.ts';

type Lanes = TypeOf<typeof contract>;
type Lane = Lanes['stages'][number];

/** So many cards of a stage are sent; the others are told by age, and open on request. */
const CARDS_A_STAGE = 40;

interface GroupRow {
  readonly stage: string;
  readonly age: number;
  readonly standing: Standing;
  readonly count: number;
  readonly minor: number;
  readonly past: number;
  readonly without_rate: number;
}

interface ReasonCount {
  readonly outcome: string;
  readonly reasons: number;
  readonly followUpReasons: number;
}

interface LiveRow {
  readonly name: string;
  readonly version: string | null;
  readonly document: StoredDocument | null;
  readonly all_open: number;
  readonly reasons: readonly ReasonCount[];
}

/** Open deals of a process on its ladder: each stage's figures, its ages, and the cards that matter most. */
export async function getLanes(context: Context, person: Person, process: string, query: DealFilter): Promise<Lanes> {
  const now = context.clock.now();
  return inTransaction(context, async (tx) => {
    const { timeZone, currency } = await organisation(tx);
    const today = localDay(now, timeZone);
    const live = await liveProcess(tx, person, process);
    const scope = laneScope(person, process, query, today, now, { currency, digits: await minorDigitsInUse(tx) });
    const groups = await sql<GroupRow>(tx, GROUPS(scope.condition), scope.parameters);
    const cards = await toCards(
      tx,
      await sql<CardRow>(tx, CARDS(scope.condition), { ...scope.parameters, most: CARDS_A_STAGE }),
      today,
      now,
    );
    const document = live.document && readDocument(live.document);
    const stages = document?.stages ?? [];
    const calendar = await calendarOf(tx, process);
    const lanes = stages.map((stage) => toLane(stage, groups, cards, calendar));
    const others = await otherStages(tx, process, groups, stages, cards, calendar);
    const all = [...lanes, ...others];
    const sum = (part: (lane: Lane) => number): number => all.reduce((total, lane) => total + part(lane), 0);
    return {
      process: { id: process, name: live.name },
      currency,
      version: live.version === null ? null : await versionName(tx, live.version),
      today,
      stages: lanes,
      otherStages: others,
      openDeals: sum(({ count }) => count),
      allOpenDeals: live.all_open,
      minor: sum(({ minor }) => minor),
      weightedMinor: sum((lane) => lane.weightedMinor),
      held: sum(({ held }) => held),
      pastTarget: sum(({ pastTarget }) => pastTarget),
      withoutRate: groups.reduce((total, group) => total + group.without_rate, 0),
      outcomes: toOutcomes(document?.outcomes ?? [], live.reasons, await endedThisMonth(tx, person, process, today)),
    };
  });
}

async function liveProcess(tx: EntityManager, person: Person, process: string): Promise<LiveRow> {
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

function laneScope(
  person: Person,
  process: string,
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

type LaneStage = Pick<Stage, 'id' | 'name' | 'chance' | 'target'>;

function toLane(stage: LaneStage, groups: readonly GroupRow[], cards: readonly DealCard[], calendar: Calendar): Lane {
  const mine = groups.filter((group) => group.stage === stage.id);
  const sum = (part: (group: GroupRow) => number): number => mine.reduce((total, group) => total + part(group), 0);
  const minor = sum((group) => group.minor);
  return {
    id: stage.id,
    name: stage.name,
    chance: stage.chance,
    targetDays: stage.target && calendarDaysOf(stage.target, calendar),
    count: sum(({ count }) => count),
    minor,
    weightedMinor: weightedMinor(minor, stage.chance),
    held: mine.filter(({ standing }) => standing === 'held').reduce((total, { count }) => total + count, 0),
    pastTarget: sum(({ past }) => past),
    medianAge: countedMedian(mine.map(({ age, count }) => ({ days: age, count }))),
    ages: mine.map(({ age, count, past, minor: amount, standing }) => ({ age, count, past, minor: amount, standing })),
    cards: cards.filter((card) => card.stage === stage.id),
  };
}

/** Stages that deals on older versions are in and the live version no longer has. */
async function otherStages(
  tx: EntityManager,
  process: string,
  groups: readonly GroupRow[],
  live: readonly Stage[],
  cards: readonly DealCard[],
  calendar: Calendar,
): Promise<Lane[]> {
  const missing = [...new Set(groups.map(({ stage }) => stage))].filter((id) => !live.some((stage) => stage.id === id));
  if (missing.length === 0) return [];
  const versions = await sql<{ stages: Stage[] }>(
    tx,
    `select document->'stages' as stages from process_versions where process_id = :process and state <> 'draft' order by number desc`,
    { process },
  );
  return missing.map((id) => {
    const known = versions.flatMap(({ stages }) => stages).find((stage) => stage.id === id);
    return toLane(known ?? { id, name: 'A stage that is gone', chance: 0, target: null }, groups, cards, calendar);
  });
}

interface EndedRow {
  readonly outcome: string;
  readonly count: number;
  readonly minor: number;
}

/** Closed deals count with the value that they closed with, at the rate of that day. */
async function endedThisMonth(
  tx: EntityManager,
  person: Person,
  process: string,
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

const toOutcomes = (
  outcomes: readonly Outcome[],
  reasons: readonly ReasonCount[],
  ended: readonly EndedRow[],
): Lanes['outcomes'] =>
  outcomes.map(({ id, name, counts }) => {
    const asked = reasons.find(({ outcome }) => outcome === id);
    const closed = ended.find(({ outcome }) => outcome === id);
    return {
      id,
      name,
      counts,
      count: closed?.count ?? 0,
      minor: closed?.minor ?? 0,
      reasons: asked?.reasons ?? 0,
      followUpReasons: asked?.followUpReasons ?? 0,
    };
  });
