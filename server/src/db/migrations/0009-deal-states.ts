import type { MigrationInterface, QueryRunner } from 'typeorm';

/**
 * What lists, lanes and measures ask of a deal stands as intervals in one narrow table, in place of those kept by aspect.
 * The deal's own row keeps no index on what a move changes. Deals follow their process: which version one is on stands with
 * the deal only where it stayed on an older one, or has ended; a publish is an event of the process, in a chain of its own.
 */
export class DealStates1700000000009 implements MigrationInterface {
  async up(runner: QueryRunner): Promise<void> {
    for (const part of [TABLE, PAST, INDEXES, FOLLOWING, EVENTS]) await runner.query(part);
  }

  async down(): Promise<void> {
    throw new Error('This migration cannot be taken back: intervals by aspect are kept no more.');
  }
}

const TABLE = `
create table deal_states (
  deal_id uuid not null references deals, from_at timestamptz not null, to_at timestamptz not null default 'infinity',
  process_id uuid not null, owner_id uuid, team_id uuid, entered_at timestamptz not null, value_minor bigint,
  entered_day date not null, move_on_day date, close_date date, findings integer not null, owed integer not null,
  shown_from timestamptz not null, status text not null check (status in ('open', 'won', 'lost', 'voided')), standing text not null check (standing in ('clear', 'flagged', 'held')),
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
insert into deal_states (deal_id, from_at, to_at, process_id, owner_id, team_id, entered_at, value_minor, entered_day, move_on_day,
  close_date, findings, owed, shown_from, status, standing, stage_id, currency)
select p.deal_id, p.turn, p.next_turn, d.process_id, (pg_temp.aspect_at(d.id, 'owner', p.turn) #>> '{}')::uuid, (pg_temp.aspect_at(d.id, 'team', p.turn) #>> '{}')::uuid, v.entered_at,
  (pg_temp.aspect_at(d.id, 'value', p.turn)->>'minor')::bigint, v.entered_day, v.move_on_day,
  (pg_temp.aspect_at(d.id, 'close_date', p.turn) #>> '{}')::date, f.findings, f.owed,
  case when p.next_turn <= h.settled_at then 'infinity' when p.turn <= h.settled_at then '-infinity' else p.turn end,
  case when d.status = 'voided' then 'voided' when v.left_at is null or p.turn < v.left_at then 'open' else d.status end, f.standing, v.stage_id,
  coalesce(pg_temp.aspect_at(d.id, 'value', p.turn)->>'currency', d.currency)
from pieces p join deals d on d.id = p.deal_id join deal_heads h on h.deal_id = p.deal_id
cross join lateral (select * from visits where deal_id = p.deal_id and not taken_back and entered_at <= p.turn order by seq desc limit 1) v
cross join lateral (
  select count(*)::int as findings, count(*) filter (where origin in ('owed', 'entry'))::int as owed,
    case when bool_or(level = 'hold') then 'held' when count(*) > 0 then 'flagged' else 'clear' end as standing
  from findings where deal_id = p.deal_id and opened_at <= p.turn and p.turn < closed_at
) f;
`;

const INDEXES = `
create index deal_states_by_age on deal_states (process_id, status, entered_at, deal_id) where shown_from < 'infinity';
create index deal_states_by_stage on deal_states (process_id, stage_id, (standing = 'held') desc, entered_day, deal_id) where shown_from < 'infinity' and status = 'open';
create index deal_states_by_team on deal_states (team_id, status, entered_at, deal_id) where shown_from < 'infinity';
create index deal_states_by_owner on deal_states (owner_id, status, entered_at, deal_id) where shown_from < 'infinity';
create index deal_states_by_status on deal_states (status, entered_at, deal_id) where shown_from < 'infinity';
create index deal_states_by_standing on deal_states (process_id, standing, entered_at, deal_id) where shown_from < 'infinity' and status = 'open';
create index deal_states_shown on deal_states (process_id, status, shown_from, to_at) where shown_from < 'infinity';
create index deal_states_by_end on deal_states (process_id, to_at, from_at);
drop index deals_by_age;
drop index deals_by_team;
drop index deals_by_owner;
drop index deals_by_stage;
drop index deals_by_status;
create index deals_open on deals (process_id, id) include (team_id, owner_id, version_id) where status = 'open';
alter table deals set (fillfactor = 80);
alter table deal_heads set (fillfactor = 70);
`;

/* A version was followed until the next was published; what a deal followed beyond that was its own stay on it. */
const FOLLOWING = `
alter table process_versions add column superseded_at timestamptz;
update process_versions v set superseded_at = (
  select min(n.published_at) from process_versions n where n.process_id = v.process_id and n.number > v.number and n.state <> 'draft'
) where v.state = 'superseded';
alter table process_versions add constraint process_versions_superseded check (superseded_at is null or state = 'superseded');
create table deal_stays (
  deal_id uuid not null references deals, version_id uuid not null references process_versions, from_at timestamptz not null,
  to_at timestamptz not null default 'infinity', primary key (deal_id, from_at), check (from_at < to_at)
);
create unique index deal_stays_one_open on deal_stays (deal_id) where to_at = 'infinity';
insert into deal_stays (deal_id, version_id, from_at, to_at)
select s.deal_id, v.id, greatest(s.from_at, v.superseded_at), coalesce(s.to_at, 'infinity')
from deal_spans s join process_versions v on v.id = (s.value #>> '{}')::uuid
where s.aspect = 'version' and greatest(s.from_at, v.superseded_at) < coalesce(s.to_at, 'infinity') and v.superseded_at is not null;
drop table deal_spans;
drop index deals_by_version;
alter table deals alter column version_id drop not null;
update deals d set version_id = null from process_versions v where v.id = d.version_id and v.state = 'live' and d.status = 'open';
create index deals_staying on deals (version_id) where status = 'open' and version_id is not null;
alter table long_work add column binding boolean not null default false;
update long_work w set request = w.request || jsonb_build_object('version', v.id) from process_versions v
where w.kind = 'publish' and w.state = 'running' and v.process_id::text = w.subject and v.state = 'draft';
`;

const EVENTS = `
create table process_events (
  process_id uuid not null references processes, seq integer not null, kind text not null check (kind in ('published')), happened_at timestamptz not null,
  recorded_at timestamptz not null, by_id uuid references people, by_actor text collate "C", body jsonb not null, previous_hash bytea not null, hash bytea not null,
  primary key (process_id, seq), constraint process_events_actor check (num_nonnulls(by_id, by_actor) = 1)
);
create function process_event_hash(
  previous bytea, process uuid, seq integer, kind text, happened timestamptz, recorded timestamptz, actor text, body jsonb
) returns bytea language sql immutable as $$
  select sha256(convert_to(jsonb_build_array(
    encode(previous, 'hex'), process, seq, kind, (extract(epoch from happened) * 1000000)::bigint,
    (extract(epoch from recorded) * 1000000)::bigint, actor, body
  )::text, 'UTF8'))
$$;
create function chain_process_events() returns trigger language plpgsql security definer set search_path = public, pg_temp as $$
declare last process_events%rowtype;
begin
  perform from processes where id = new.process_id for no key update;
  select * into last from process_events where process_id = new.process_id order by seq desc limit 1;
  new.seq := coalesce(last.seq, 0) + 1;
  new.previous_hash := coalesce(last.hash, '');
  new.hash := process_event_hash(
    new.previous_hash, new.process_id, new.seq, new.kind, new.happened_at, new.recorded_at, coalesce(new.by_actor, new.by_id::text), new.body
  );
  return new;
end $$;
create trigger chain_process_events before insert on process_events for each row execute function chain_process_events();
`;
