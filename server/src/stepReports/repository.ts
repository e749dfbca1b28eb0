import type { DealId, ProcessId, StageId } from '@ladder/core';
import type { EntityManager } from 'typeorm';
import { seesAll } from '../access/dealAccess.ts';
import { seenDealIds, visibleDeals } from '../access/repository.ts';
import { type ListMark, type ListOrder, markParameters, pageInOrder } from '../db/listOrder.ts';
import { asArray, at, sql } from '../db/sql.ts';
import {
  lookedUp,
  OF_PROCESS,
  ofWhose,
  PAST_TARGET,
  type Scope,
  SO_NOW,
  SO_NOW_PARTS,
  type WhoseFilter,
} from '../deals/repository/openBook.ts';
import type { Person } from '../session/person.ts';

/** How reports on steps are narrowed; by whose the deal is now. */
export type WorkFilter = WhoseFilter;

/** Deals `d` that the person may see, narrowed; of one process, or of all. */
function dealsSeen(person: Person, process: ProcessId | null, { owner, team }: WorkFilter): Scope {
  const seen = visibleDeals(person);
  return {
    condition: `d.status <> 'voided' and ${OF_PROCESS} and ${seen.condition} and ${ofWhose({ owner, team })}`,
    parameters: { ...seen.parameters, process: process ?? undefined, owner, team },
  };
}

const UUID = `'^[0-9a-f]{8}(-[0-9a-f]{4}){3}-[0-9a-f]{12}$'`;

/*
 * As `open`: each step at hand with whom it falls to, as core's `stepPerson` says, read from the few versions that deals follow.
 */
const OPEN_STEPS = (runs: string, condition: string): string => `
  steps as materialized (
    select v.id as version, st->>'id' as stage, s->>'id' as step, s->>'name' as name, s->'who'->>'by' as by, s->'who'->>'person' as person
    from process_versions v, jsonb_array_elements(v.document->'stages') st, jsonb_array_elements(coalesce(st->'steps', '[]')) s
    where v.state <> 'draft' and (:process::uuid is null or v.process_id = :process::uuid)
  ), runs_at_hand as materialized (${runs}), open as (
    select r.deal_id as deal, r.process_id, d.team_id, d.owner_id, r.seq, r.stage_id, r.step, coalesce(s.name, r.name) as name, r.due_day,
      coalesce(r.assignee_id, case s.by when 'owner' then d.owner_id when 'bringer' then coalesce(brought.by_id, d.owner_id)
        when 'person' then case when s.person ~ ${UUID} then s.person::uuid end end) as person
    from runs_at_hand r join deals d on ${OF_OPEN_DEAL} join process_versions live on live.process_id = d.process_id and live.state = 'live'
    left join steps s on s.version = coalesce(d.version_id, live.id) and s.stage = r.stage_id and s.step = r.step
    left join lateral (
      select coalesce(m.by_id, f.by_id) as by_id from visits i join moves m on m.deal_id = i.deal_id and m.seq = i.move_seq
      left join imports f on f.id = substring(m.by_actor from '^import:(.*)$')::uuid
      where s.by = 'bringer' and r.assignee_id is null and i.deal_id = r.deal_id and i.seq = r.visit_seq
      limit 1 -- keeps it apart, so that it is looked up where it is asked for alone
    ) brought on true
    where ${condition}
  )`;

/** The deal `d` of a run `r` that is at hand, by an index that has all that is read of it. */
const OF_OPEN_DEAL = `d.process_id = r.process_id and d.id = r.deal_id and d.status = 'open'`;

const AT_HAND = 'r.ended_at is null and not r.taken_back and r.counts';
const RUNS_AT_HAND = `select r.deal_id, r.process_id, r.seq, r.stage_id, r.step, r.name, r.due_day, r.assignee_id, r.visit_seq from step_runs r`;

export interface DoneCount {
  readonly stage: StageId;
  readonly step: string;
  readonly person: string | null;
  readonly by: string;
  readonly result: string;
  readonly count: number;
  readonly late: number;
  readonly mark: ListMark;
}

interface Period {
  readonly from: string;
  readonly to: string;
}

const DONE = `r.how = 'result' and not r.taken_back and r.ended_day between :from and :to`;

/** By the stages' and steps' own order, then by person, most often first. */
export const DONE_ORDER: ListOrder = [
  ['stage_place', 'number'],
  ['step_place', 'number'],
  ['stage', 'text'],
  ['step', 'text'],
  ['"by"', 'text'],
  [`coalesce(person::text, '')`, 'text'],
  ['-count', 'number'],
  ['result', 'text'],
];

/** What is gone stands last. */
const NO_PLACE = 1_000_000;

/** A page of the steps that were ended with a result in a period, by step, person and result. */
export function countDone(
  tx: EntityManager,
  person: Person,
  process: ProcessId,
  period: Period,
  filter: WorkFilter,
  order: { readonly stages: readonly string[]; readonly steps: readonly string[] },
  limit: number,
  mark: ListMark | null,
): Promise<DoneCount[]> {
  const { condition, parameters } = ofDealsSeen(person, process, filter);
  return sql<DoneCount>(
    tx,
    `with counted as (
       select r.stage_id as stage, r.step, r.ended_by as person, r.result, count(*)::int as count, count(*) filter (where r.ended_day > r.due_day)::int as late
       from step_runs r where ${DONE} and r.counts and r.process_id = :process and ${condition} group by 1, 2, 3, 4
     ), named as (
       select c.*, coalesce(p.name, 'the process') as "by", coalesce(array_position(:stages::text[], c.stage), ${NO_PLACE}) as stage_place,
         coalesce(array_position(:steps::text[], c.step), ${NO_PLACE}) as step_place
       from counted c left join people p on p.id = c.person
     )
     ${pageInOrder('named', DONE_ORDER)}`,
    {
      ...parameters,
      process,
      ...period,
      stages: asArray(order.stages),
      steps: asArray(order.steps),
      limit,
      ...markParameters(DONE_ORDER, mark),
    },
  );
}

export interface StepCount {
  readonly stage: StageId;
  readonly step: string;
  readonly deals: number;
  readonly late: number;
}

/** Where open deals stand by step: a step at hand ends with its deal. */
export function countAtHand(
  tx: EntityManager,
  person: Person,
  process: ProcessId,
  today: string,
  filter: WorkFilter,
): Promise<StepCount[]> {
  const { condition, parameters } = ofDealsSeen(person, process, filter);
  return sql<StepCount>(
    tx,
    `select r.stage_id as stage, r.step, count(distinct r.deal_id)::int as deals, count(*) filter (where r.due_day < :today::date)::int as late
     from step_runs r where ${AT_HAND} and r.process_id = :process and ${condition} group by 1, 2`,
    { ...parameters, process, today },
  );
}

/** Runs `r` of one process, or of all, by whose their deal is now. */
function ofDealsSeen(person: Person, process: ProcessId | null, { owner, team }: WorkFilter): Scope {
  if (seesAll(person) && owner === undefined && team === undefined) return { condition: 'true', parameters: {} };
  const { condition, parameters } = seenDealIds(person, `${OF_PROCESS} and ${ofWhose({ owner, team })}`);
  return {
    condition: `r.deal_id in (${condition})`,
    parameters: { ...parameters, process: process ?? undefined, owner, team },
  };
}

export interface LateCount {
  readonly process: ProcessId;
  readonly process_name: string;
  readonly team: string | null;
  readonly team_name: string | null;
  readonly person: string | null;
  readonly person_name: string | null;
  readonly late_steps: number;
  readonly late_deals: number;
  readonly past_target: number;
  readonly mark: ListMark;
}

/** Those with most late steps first. */
export const LATE_ORDER: ListOrder = [
  ['-late_steps', 'number'],
  ['-past_target', 'number'],
  ['process_name', 'text'],
  [`coalesce(team_name, '')`, 'text'],
  [`coalesce(person_name, '')`, 'text'],
  ['process::text', 'text'],
  [`coalesce(team::text, '')`, 'text'],
  [`coalesce(person::text, '')`, 'text'],
];

/**
 * A page of the steps past their due day by whom they fall to, and the deals past their target by whose they are; by process and
 * team, of all that the person sees.
 */
export async function countLate(
  tx: EntityManager,
  person: Person,
  today: string,
  now: number,
  filter: WorkFilter,
  limit: number,
  mark: ListMark | null,
): Promise<LateCount[]> {
  const [seen, mine] = [dealsSeen(person, null, filter), ofDealsSeen(person, null, filter)];
  const few = await lookedUp(tx, person, null, filter);
  const pastTarget = (few ? [SO_NOW] : SO_NOW_PARTS).map(
    (part) => `select d.process_id, d.team_id, d.owner_id, 0, 0, count(*)::int from deal_states d
       where d.status = 'open' and ${part} and ${PAST_TARGET} and ${seen.condition} and ${few?.condition ?? 'true'} group by 1, 2, 3`,
  );
  return sql<LateCount>(
    tx,
    `with ${OPEN_STEPS(`${RUNS_AT_HAND} where ${AT_HAND} and r.due_day < :today::date and ${mine.condition}`, seen.condition)}, counted as (
       select process_id, team_id, person, count(*)::int as late_steps, count(distinct deal)::int as late_deals, 0 as past_target
       from open group by 1, 2, 3
       union all
       ${pastTarget.join(' union all ')}
     ), summed as (
       select process_id, team_id, person, sum(late_steps)::int as late_steps, sum(late_deals)::int as late_deals, sum(past_target)::int as past_target
       from counted group by 1, 2, 3
     ), named as (
       select c.process_id as process, p.name as process_name, c.team_id as team, t.name as team_name, c.person, w.name as person_name, c.late_steps, c.late_deals, c.past_target
       from summed c join processes p on p.id = c.process_id left join teams t on t.id = c.team_id left join people w on w.id = c.person
     )
     ${pageInOrder('named', LATE_ORDER)}`,
    {
      ...seen.parameters,
      today,
      now: at(now),
      limit,
      ...markParameters(LATE_ORDER, mark),
    },
  );
}

export interface RunsQuery extends WorkFilter {
  readonly state: 'done' | 'open';
  readonly step?: string;
  readonly result?: string;
  /** A person, or `none`. */
  readonly person?: string;
  readonly late?: 'yes';
}

export interface RunRow {
  readonly deal: DealId;
  readonly deal_name: string;
  readonly owner: string | null;
  readonly seq: number;
  readonly stage: StageId;
  readonly name: string;
  readonly result: string | null;
  readonly person: string | null;
  readonly due: string | null;
  readonly day: string;
}

const MATCHES = `(:step::text is null or step = :step::text) and (:result::text is null or result_id = :result::text)
  and (:who::text is null or coalesce(person_id::text, 'none') = :who::text) and (:late::text is null or is_late)`;

const DUE = `coalesce(r.due_day, 'infinity'::date)`;

/* The page of the runs at hand: whom they fall to is looked for behind it, where it is not asked for. */
const pageAtHand = (condition: string, mine: string): string => `
  ${RUNS_AT_HAND} join deals d on ${OF_OPEN_DEAL}
  where ${AT_HAND} and r.process_id = :process::uuid and ${condition} and ${mine} and (:step::text is null or r.step = :step::text)
    and (:late::text is null or r.due_day < :today::date)
    and (:afterDay::date is null or (${DUE}, r.deal_id, r.seq) > (:afterDay::date, :afterDeal::uuid, :afterSeq::int))
  order by ${DUE}, r.deal_id, r.seq limit :limit`;

/** The runs behind a number: those at hand by their due day, those that are done the newest first; a page of them. */
export async function findRuns(
  tx: EntityManager,
  person: Person,
  process: ProcessId,
  today: string,
  period: Period,
  { owner, team, state, step, result, person: who, late }: RunsQuery,
  limit: number,
  cursor: readonly [string, string, number] | null,
): Promise<RunRow[]> {
  const [seen, mine] = [dealsSeen(person, process, { owner, team }), ofDealsSeen(person, process, { owner, team })];
  const allAtHand = `${RUNS_AT_HAND} where ${AT_HAND} and r.process_id = :process::uuid and ${mine.condition}`;
  const runsAtHand = who === undefined ? pageAtHand(seen.condition, mine.condition) : allAtHand;
  const open = `select o.deal, o.seq, o.stage_id, o.step, o.name, null::text as result_id, null::text as result, o.person as person_id,
      o.due_day, coalesce(o.due_day, 'infinity'::date) as day, coalesce(o.due_day < :today::date, false) as is_late from open o`;
  const done = `select r.deal_id as deal, r.seq, r.stage_id, r.step, r.name, r.result as result_id, r.result_name as result,
      r.ended_by as person_id, r.due_day, r.ended_day as day, coalesce(r.ended_day > r.due_day, false) as is_late
    from step_runs r where ${DONE} and r.counts and r.process_id = :process::uuid and ${mine.condition}`;
  const [order, past] = state === 'open' ? ['asc', '>'] : ['desc', '<'];
  return sql<RunRow>(
    tx,
    `with ${state === 'open' ? `${OPEN_STEPS(runsAtHand, seen.condition)}, ` : ''}runs as (${state === 'open' ? open : done}), page as (
       select * from runs x where ${MATCHES} and (:afterDay::date is null or (x.day, x.deal, x.seq) ${past} (:afterDay::date, :afterDeal::uuid, :afterSeq::int))
       order by x.day ${order}, x.deal ${order}, x.seq ${order} limit :limit
     )
     select x.deal, d.name as deal_name, ow.name as owner, x.seq, x.stage_id as stage, x.name, x.result, w.name as person, x.due_day::text as due, x.day::text as day
     from page x join deals d on d.id = x.deal left join people ow on ow.id = d.owner_id left join people w on w.id = x.person_id
     order by x.day ${order}, x.deal ${order}, x.seq ${order}`,
    {
      ...seen.parameters,
      ...period,
      today,
      step,
      result,
      who,
      late,
      limit,
      afterDay: cursor?.[0],
      afterDeal: cursor?.[1],
      afterSeq: cursor?.[2],
    },
  );
}
