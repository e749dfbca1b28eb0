import type { MigrationInterface, QueryRunner } from 'typeorm';

/**
 * What lists, lanes and measures ask of a deal stands as intervals in one narrow table, in place of those kept by aspect.
 * The deal's own row keeps no index on what a move changes.
 */
export class DealStates1700000000009 implements MigrationInterface {
  async up(runner: QueryRunner): Promise<void> {
    for (const part of [TABLE, PAST, INDEXES]) await runner.query(part);
  }

  async down(): Promise<void> {
    throw new Error('This migration cannot be taken back: intervals by aspect are kept no more.');
  }
}

const TABLE = `
create table deal_states (
  deal_id uuid not null references deals, from_at timestamptz not null, to_at timestamptz not null default 'infinity',
  process_id uuid not null, version_id uuid not null, owner_id uuid, team_id uuid, entered_at timestamptz not null, value_minor bigint,
  entered_day date not null, move_on_day date, close_date date, findings integer not null, owed integer not null, past boolean not null default false,
  status text not null check (status in ('open', 'won', 'lost', 'voided')), standing text not null check (standing in ('clear', 'flagged', 'held')),
  stage_id text collate "C" not null, currency char(3) not null, primary key (deal_id, from_at), check (from_at < to_at)
);
`;

/* At each turn of a deal: its stay, the findings in force, and the aspects as they were; before the first of them as at first. */
const PAST = `
create function pg_temp.aspect_at(deal uuid, name text, instant timestamptz) returns jsonb language sql stable as $$
  select value from deal_spans where deal_id = deal and aspect = name
  order by from_at > instant, case when from_at > instant then from_at end, from_at desc limit 1
$$;
with begun as (
  select deal_id, min(entered_at) as begin_at from visits where not taken_back group by deal_id
), turns as (
  select deal_id, begin_at as turn from begun
  union select deal_id, from_at from deal_spans
  union select deal_id, entered_at from visits where not taken_back
  union select deal_id, left_at from visits where not taken_back and left_at is not null
  union select deal_id, opened_at from findings
  union select deal_id, closed_at from findings where closed_at < 'infinity'
), pieces as (
  select t.deal_id, t.turn, lead(t.turn, 1, 'infinity') over (partition by t.deal_id order by t.turn) as next_turn
  from turns t join begun b on b.deal_id = t.deal_id join deals d on d.id = t.deal_id
  where t.turn >= case when d.status = 'voided' then d.closed_at else b.begin_at end
)
insert into deal_states (deal_id, from_at, to_at, process_id, version_id, owner_id, team_id, entered_at, value_minor, entered_day, move_on_day,
  close_date, findings, owed, past, status, standing, stage_id, currency)
select p.deal_id, p.turn, p.next_turn, d.process_id, coalesce(pg_temp.aspect_at(d.id, 'version', p.turn) #>> '{}', d.version_id::text)::uuid,
  (pg_temp.aspect_at(d.id, 'owner', p.turn) #>> '{}')::uuid, (pg_temp.aspect_at(d.id, 'team', p.turn) #>> '{}')::uuid, v.entered_at,
  (pg_temp.aspect_at(d.id, 'value', p.turn)->>'minor')::bigint, v.entered_day, v.move_on_day,
  (pg_temp.aspect_at(d.id, 'close_date', p.turn) #>> '{}')::date, f.findings, f.owed, p.next_turn <= h.settled_at,
  case when d.status = 'voided' then 'voided' when v.left_at is null or p.turn < v.left_at then 'open' else d.status end, f.standing, v.stage_id,
  coalesce(pg_temp.aspect_at(d.id, 'value', p.turn)->>'currency', d.currency)
from pieces p join deals d on d.id = p.deal_id join deal_heads h on h.deal_id = p.deal_id
cross join lateral (select * from visits where deal_id = p.deal_id and not taken_back and entered_at <= p.turn order by seq desc limit 1) v
cross join lateral (
  select count(*)::int as findings, count(*) filter (where origin in ('owed', 'entry'))::int as owed,
    case when bool_or(level = 'hold') then 'held' when count(*) > 0 then 'flagged' else 'clear' end as standing
  from findings where deal_id = p.deal_id and opened_at <= p.turn and p.turn < closed_at
) f;
drop table deal_spans;
`;

const INDEXES = `
create index deal_states_by_age on deal_states (process_id, status, entered_at, deal_id) where not past;
create index deal_states_by_stage on deal_states (process_id, stage_id, (standing = 'held') desc, entered_day, deal_id) where not past and status = 'open';
create index deal_states_by_team on deal_states (team_id, status, entered_at, deal_id) where not past;
create index deal_states_by_owner on deal_states (owner_id, status, entered_at, deal_id) where not past;
create index deal_states_by_status on deal_states (status, entered_at, deal_id) where not past;
create index deal_states_by_end on deal_states (process_id, to_at, from_at);
drop index deals_by_age;
drop index deals_by_team;
drop index deals_by_owner;
drop index deals_by_stage;
drop index deals_by_status;
drop index deals_by_version;
create index deals_by_version on deals (version_id) include (team_id, owner_id) where status = 'open';
create index deals_open on deals (process_id, id) include (team_id, owner_id) where status = 'open';
alter table deals set (fillfactor = 80);
alter table deal_heads set (fillfactor = 70);
`;
