import type { DealAtHand, DealId, ProcessId, VersionId } from '@ladder/core';
import type { EntityManager } from 'typeorm';
import { visibleDeals } from '../access/repository.ts';
import { asArray, at, sql } from '../db/sql.ts';
import { followedBy } from '../deals/repository/followed.ts';
import { SO_NOW } from '../deals/repository/openBook.ts';
import type { Person } from '../session/person.ts';

/** Whose day it is: a person with their teams, or a team with its people. */
export interface Whose {
  readonly kind: 'person' | 'team';
  readonly id: string;
  readonly name: string;
  readonly teams: readonly string[];
  readonly people: readonly string[];
  /** Who decides on waivers that are asked for: the person, or whoever looks at the team's day. */
  readonly decider: { readonly id: string; readonly role: string };
}

export interface DayDealRow extends DealAtHand {
  readonly id: DealId;
  readonly name: string;
  readonly customer: string | null;
  readonly process: ProcessId;
  readonly processName: string;
  readonly version: VersionId;
  readonly reason: string | null;
  readonly closeDate: string | null;
  /** Rises with everything that is written down about the deal. */
  readonly written: number;
  readonly settledAt: Date;
}

export interface When {
  readonly now: number;
  readonly zone: string;
  /** Closed deals are looked at again if their day is no later. */
  readonly until: string;
}

/* Deals `d` of one team; or of a person: their own, those of which something was given to them, and what is nobody's in their teams. */

const IN_TEAMS = 'd.team_id = any(:teams::uuid[])';
const RUN_OPEN = 'r.ended_at is null and not r.taken_back';

const OWN = 'd.owner_id = any(:people::uuid[])';

const GIVEN = `d.deal_id in (
  select r.deal_id from step_runs r where r.assignee_id = any(:people::uuid[]) and ${RUN_OPEN} union select t.deal_id from tasks t where t.assignee_id = any(:people::uuid[]) and t.ended_at is null
  union select v.deal_id from waivers v where :decidesAll and v.decided_at is null)`;

/* The teams' are found first (`offset 0`): beside what is then looked for in each, the planner thinks nothing of going through all. */
const openDeals = (whose: Whose): string => {
  const open = (which: string): string => `deal_states d where d.status = 'open' and ${SO_NOW} and ${which}`;
  const from = (source: string): string =>
    `select d.deal_id as id, d.stage_id, d.status, d.standing, d.entered_day, d.move_on_day from ${source}`;
  if (whose.kind === 'team') return from(open(IN_TEAMS));
  const others = `not coalesce(${OWN}, false)`;
  return [
    from(open(OWN)),
    from(open(`${others} and ${GIVEN}`)),
    from(`(select * from ${open(IN_TEAMS)} offset 0) d where ${others} and ${NOBODYS} and not (${GIVEN})`),
  ].join(' union all ');
};

/** Steps that do not fall to the deal's owner, of any version: what nobody has taken of them may be anyone's. */
const OTHERS_STEPS = `
  select distinct s->>'id' as stage_id, t->>'id' as step
  from process_versions v, jsonb_array_elements(v.document->'stages') s, jsonb_array_elements(coalesce(s->'steps', '[]')) t
  where v.published_at is not null and t->'who'->>'by' <> 'owner'`;

const nobodysTask = (deal: string): string =>
  `exists (select from tasks t where t.deal_id = ${deal} and t.assignee_id is null and t.ended_at is null offset 0)`;

/**
 * May have something that is nobody's yet, or wants a decision: looked for a deal at a time (`offset 0` keeps it so), for all that is
 * nobody's grows with the book, and a team does not.
 */
const NOBODYS = `(d.owner_id is null
  or ${nobodysTask('d.deal_id')}
  or exists (select from waivers v where v.deal_id = d.deal_id and v.decided_at is null offset 0)
  or exists (
    select from step_runs r join others_steps s on s.stage_id = r.stage_id and s.step = r.step
    where r.deal_id = d.deal_id and r.assignee_id is null and ${RUN_OPEN} offset 0
  ))`;

/** Closed ones that are to be looked at again, or of which a task was kept. */
const CLOSED_DEALS = `
  select w.id, w.stage_id, w.status, 'clear', w.closed_day, null::date from deals w where w.status in ('won', 'lost') and w.id in (
    select id from deals where team_id = any(:teams::uuid[]) and follow_up_day <= :until
    union select id from deals where owner_id = any(:people::uuid[]) and follow_up_day <= :until
    union select deal_id from tasks where assignee_id = any(:people::uuid[]) and ended_at is null
    union select o.id from deals o where o.team_id = any(:teams::uuid[]) and o.status in ('won', 'lost') and ${nobodysTask('o.id')}
  )`;

/** What the person may see of the deals that the day is made of, with what is at hand in each. */
export function findDayDeals(
  tx: EntityManager,
  viewer: Person,
  whose: Whose,
  { now, zone, until }: When,
): Promise<DayDealRow[]> {
  const seen = visibleDeals(viewer);
  return sql<DayDealRow>(
    tx,
    `with others_steps as materialized (${OTHERS_STEPS}), at_hand as materialized (${openDeals(whose)} union all ${CLOSED_DEALS})
     select d.id, d.name, cu.name as customer, d.process_id as process, p.name as "processName", fv.id as version, a.status, a.stage_id as stage, d.owner_id as owner,
       case when d.value_minor is not null then json_build_object('minor', d.value_minor, 'currency', d.currency) end as value, a.standing, held.found as held,
       a.entered_day::text as "enteredDay", a.move_on_day::text as "moveOnDay", (h.last_activity_at at time zone :zone)::date::text as "activeDay",
       case when d.next_action <> '' and d.values->>'next_action_day' is not null
         then json_build_object('text', d.next_action, 'day', d.values->>'next_action_day') end as "nextAction",
       d.follow_up_day::text as "followUp", d.close_date::text as "closeDate", h.journal_count as written, h.settled_at as "settledAt", rn.name as reason, coalesce(runs.list, '[]') as runs, coalesce(due.list, '[]') as tasks, coalesce(asked.list, '[]') as waivers
     from at_hand a join deals d on d.id = a.id ${followedBy('d')} join processes p on p.id = d.process_id
     cross join lateral (select journal_count, settled_at, last_activity_at from deal_heads where deal_id = d.id limit 1) h
     left join customers cu on cu.id = d.customer_id
     left join process_reasons rn on rn.process_id = d.process_id and rn.id = d.reason_id
     left join lateral (
       select json_build_object('since', (min(f.opened_at) at time zone :zone)::date, 'findings', count(*)) as found from findings f
       where f.deal_id = d.id and f.level = 'hold' and f.opened_at <= :now and f.closed_at > :now
     ) held on a.standing = 'held'
     left join lateral (
       select json_agg(json_build_object('seq', r.seq, 'stage', r.stage_id, 'step', r.step, 'name', r.name, 'owed', case when r.owed then 'yes' else 'no' end,
         'dueDay', r.due_day, 'assignee', r.assignee_id, 'bringer', coalesce(m.by_id, f.by_id)) order by r.seq) as list
       from step_runs r left join visits i on i.deal_id = r.deal_id and i.seq = r.visit_seq
       left join moves m on m.deal_id = i.deal_id and m.seq = i.move_seq
       left join imports f on f.id = substring(m.by_actor from '^import:(.*)$')::uuid
       where r.deal_id = d.id and ${RUN_OPEN} and a.status = 'open'
     ) runs on true
     left join lateral (
       select json_agg(json_build_object('seq', t.seq, 'title', t.title, 'assignee', t.assignee_id, 'dueDay', t.due_day, 'dueTime', t.due_time) order by t.seq) as list
       from tasks t where t.deal_id = d.id and t.ended_at is null
     ) due on true
     left join lateral (
       select json_agg(r) as list from (
         select v.request, count(*)::int as items, min(v.asked_by::text) as "askedBy", (min(v.asked_at) at time zone :zone)::date as "askedDay"
         from waivers v where v.deal_id = d.id and v.decided_at is null group by v.request order by v.request
       ) r
     ) asked on a.status = 'open'
     where ${seen.condition}`,
    {
      ...seen.parameters,
      decidesAll: whose.decider.role === 'administrator',
      teams: asArray(whose.teams),
      people: asArray(whose.people),
      now: at(now),
      zone,
      until,
    },
  );
}

const DONE = `
  select r.deal_id, coalesce(r.name, '') as what, coalesce(r.result_name, '') as how, r.ended_at from step_runs r
  where r.ended_by = any(:people::uuid[]) and r.ended_day = :today and r.how = 'result' and not r.taken_back
  union all select t.deal_id, t.title, 'done', t.ended_at from tasks t
  where t.ended_by = any(:people::uuid[]) and t.ended_day = :today and t.how = 'done'`;

/** How many steps and tasks people have done on a day. */
export async function countDone(tx: EntityManager, people: readonly string[], today: string): Promise<number> {
  const [row] = await sql<{ done: number }>(tx, `select count(*)::int as done from (${DONE}) done`, {
    people: asArray(people),
    today,
  });
  return row?.done ?? 0;
}

/** More than that nobody does in a day. */
const MOST_DONE = 200;

/** What they have done, of deals that the person may see, the last first. */
export function findDone(
  tx: EntityManager,
  viewer: Person,
  people: readonly string[],
  today: string,
): Promise<{ deal: DealId; name: string; what: string; how: string; at: Date }[]> {
  const seen = visibleDeals(viewer);
  return sql(
    tx,
    `select done.deal_id as deal, d.name, done.what, done.how, done.ended_at as at from (${DONE}) done join deals d on d.id = done.deal_id
     where ${seen.condition} order by done.ended_at desc limit :most`,
    { ...seen.parameters, people: asArray(people), today, most: MOST_DONE },
  );
}

/** A team with its people, who may sign in; null where there is none. */
export async function findTeam(
  tx: EntityManager,
  id: string,
): Promise<{ readonly id: string; readonly name: string; readonly people: readonly string[] } | null> {
  const [team] = await sql<{ id: string; name: string; people: string[] }>(
    tx,
    `select id, name, array(select m.person_id::text from team_members m where m.team_id = teams.id) as people from teams where id = :id`,
    { id },
  );
  return team ?? null;
}

/** How people are called. */
export const findNames = (tx: EntityManager, ids: readonly string[]): Promise<{ id: string; name: string }[]> =>
  sql(tx, `select id, name from people where id = any(:ids::uuid[]) order by name`, { ids: asArray(ids) });
