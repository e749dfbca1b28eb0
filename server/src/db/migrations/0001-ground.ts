import type { MigrationInterface, QueryRunner } from 'typeorm';

/** The whole data model: every word of the trade has its place from the first day, even where a screen comes later. */
export class Ground1700000000001 implements MigrationInterface {
  async up(runner: QueryRunner): Promise<void> {
    for (const part of [ORGANISATION, CATALOGUE, PROCESSES, DEALS, WORK, JOURNAL, DATA]) await runner.query(part);
  }

  async down(): Promise<void> {
    throw new Error('The first migration cannot be taken back: it would lose everything.');
  }
}

const ORGANISATION = `
create table organisation (
  id smallint primary key default 1 check (id = 1),
  name text not null, time_zone text not null, currency char(3) not null, demo boolean not null default false
);
create table teams (id uuid primary key, name text collate "C" not null, name_fold text collate "C" not null unique);
create table people (
  id uuid primary key, name text collate "C" not null, email text not null, email_fold text collate "C" not null unique,
  title text not null default '', role text not null check (role in ('administrator', 'manager', 'seller', 'viewer')),
  password_hash text not null, active boolean not null default true
);
create index people_by_name on people (name, id);
create table team_members (
  person_id uuid not null references people, team_id uuid not null references teams, primary key (person_id, team_id)
);
create index team_members_by_team on team_members (team_id);
create table sessions (
  token_hash bytea primary key, person_id uuid not null references people, csrf text not null,
  created_at timestamptz not null, expires_at timestamptz not null
);
create index sessions_by_expiry on sessions (expires_at);
create table sign_in_failures (email_fold text collate "C" not null, address text not null, failed_at timestamptz not null);
create index sign_in_failures_by_email on sign_in_failures (email_fold, failed_at);
create index sign_in_failures_by_address on sign_in_failures (address, failed_at);
create table rates (
  from_currency char(3) not null, to_currency char(3) not null, day date not null, rate numeric not null check (rate > 0),
  primary key (from_currency, to_currency, day)
);
create table idempotency_keys (
  person_id uuid not null references people, key text collate "C" not null, request_hash bytea not null,
  status smallint, answer jsonb, created_at timestamptz not null, primary key (person_id, key)
);
create index idempotency_keys_by_age on idempotency_keys (created_at);
`;

const CATALOGUE = `
create table fields (
  id text collate "C" primary key, holder text not null check (holder in ('deal', 'customer', 'contact')), type text not null,
  name text not null, name_fold text collate "C" not null, definition jsonb not null, searchable boolean not null default false,
  first_used_at timestamptz, place integer not null, unique (holder, name_fold)
);
create table customers (
  id uuid primary key, name text collate "C" not null, name_fold text collate "C" not null, values jsonb not null default '{}', import_id uuid
);
create index customers_by_name on customers (name_fold collate "C", id);
create table contacts (
  id uuid primary key, customer_id uuid references customers, name text collate "C" not null, name_fold text collate "C" not null,
  values jsonb not null default '{}'
);
create index contacts_by_name on contacts (name_fold collate "C", id);
create index contacts_by_customer on contacts (customer_id);
`;

const PROCESSES = `
create table calendars (
  id uuid primary key, name text not null unique, working_weekdays smallint[] not null, holidays date[] not null default '{}'
);
create table processes (
  id uuid primary key, name text collate "C" not null, name_fold text collate "C" not null unique,
  kind text not null check (kind in ('deal', 'lead')), calendar_id uuid not null references calendars,
  closed_to_new boolean not null default false, house_rules jsonb not null default '{}',
  access jsonb not null default '{}', assignment jsonb not null default '{"by": "hand"}', waiver_rights jsonb not null default '{}',
  card_layout jsonb not null default '{}'
);
create table process_reasons (
  process_id uuid not null references processes, id text collate "C" not null, outcome text not null check (outcome in ('won', 'lost')),
  name text not null, asks_follow_up boolean not null default false, withdrawn boolean not null default false, place integer not null,
  primary key (process_id, id)
);
create table process_versions (
  id uuid primary key, process_id uuid not null references processes, number integer not null,
  state text not null check (state in ('draft', 'live', 'superseded')), document jsonb not null, fields jsonb not null default '[]',
  revision integer not null default 1, saved_at timestamptz not null, published_at timestamptz, published_by uuid references people,
  unique (process_id, number)
);
create unique index process_versions_one_draft on process_versions (process_id) where state = 'draft';
create unique index process_versions_one_live on process_versions (process_id) where state = 'live';
create table process_log (
  id bigint generated always as identity primary key, process_id uuid not null references processes, at timestamptz not null,
  by_id uuid not null references people, what text not null, before jsonb, after jsonb
);
create index process_log_by_process on process_log (process_id, id);
create function published_versions_stay() returns trigger language plpgsql as $$
begin
  if old.state <> 'draft' and (new.document <> old.document or new.fields <> old.fields or new.number <> old.number or new.state = 'draft') then
    raise exception 'A published version cannot be changed' using errcode = 'restrict_violation', constraint = 'published_versions_stay';
  end if;
  return new;
end $$;
create trigger published_versions_stay before update on process_versions for each row execute function published_versions_stay();
`;

const DEALS = `
create table deals (
  id uuid primary key, process_id uuid not null references processes, version_id uuid not null references process_versions,
  name text collate "C" not null, name_fold text collate "C" not null, external_id text collate "C",
  status text not null check (status in ('open', 'won', 'lost', 'voided')), stage_id text collate "C" not null,
  entered_at timestamptz not null, entered_day date not null, move_on_day date,
  customer_id uuid references customers, contact_id uuid references contacts, owner_id uuid references people, team_id uuid references teams,
  source text, value_minor bigint, currency char(3), own_chance numeric, close_date date, next_action text,
  values jsonb not null, folded jsonb not null default '{}',
  created_at timestamptz not null, closed_at timestamptz, closed_day date, reason_id text, follow_up_day date,
  path jsonb not null, path_text text collate "C" not null, attempt jsonb, grace jsonb,
  activity_counts jsonb not null, close_date_moves integer not null default 0, move_count integer not null, import_id uuid
);
create unique index deals_external_id on deals (external_id) where external_id is not null and status <> 'voided';
create index deals_by_age on deals (process_id, status, entered_at, id);
create index deals_by_team on deals (team_id, status, entered_at, id);
create index deals_by_owner on deals (owner_id, status, entered_at, id);
create index deals_by_stage on deals (process_id, stage_id, entered_day) where status = 'open';
create index deals_by_version on deals (version_id) where status = 'open';
create index deals_by_customer on deals (customer_id) where status = 'open';
create index deals_by_contact on deals (contact_id) where status = 'open';
create index deals_by_status on deals (status, entered_at, id);
create index deals_by_closing on deals (process_id, status, closed_day);
create index deals_by_import on deals (import_id) where import_id is not null;
create extension if not exists pg_trgm;
create index deals_by_words on deals using gin (name_fold gin_trgm_ops);
create index customers_by_words on customers using gin (name_fold gin_trgm_ops);
create table deal_heads (
  deal_id uuid primary key references deals deferrable initially deferred, revision integer not null, last_activity_at timestamptz,
  journal_count integer not null default 0, journal_hash bytea not null default ''
);
create table visits (
  deal_id uuid not null references deals, seq integer not null, stage_id text collate "C" not null,
  entered_at timestamptz not null, entered_day date not null, left_at timestamptz, left_day date, move_on_day date,
  move_seq integer not null, taken_back boolean not null default false, primary key (deal_id, seq)
);
create unique index visits_one_open on visits (deal_id) where left_at is null and not taken_back;
create table moves (
  deal_id uuid not null references deals, seq integer not null, process_id uuid not null, version_id uuid not null,
  kind text not null, from_stage text collate "C", to_stage text collate "C", over_stages text[] not null,
  happened_at timestamptz not null, recorded_at timestamptz not null, day date not null, stay_days integer, target_days integer,
  by_id uuid not null references people, forced boolean not null, reason_id text,
  owner_id uuid, team_id uuid, source text, value_minor bigint, currency char(3), reporting_minor bigint,
  verdict jsonb not null, snapshot jsonb not null,
  taken_back_at timestamptz, taken_back_by uuid references people,
  counts boolean not null default true, primary key (deal_id, seq)
);
create index moves_by_day on moves (process_id, day) include (kind, from_stage, to_stage, stay_days) where counts;
create table refusals (
  deal_id uuid not null references deals, from_stage text collate "C" not null, target text collate "C" not null, day date not null,
  first_at timestamptz not null, last_at timestamptz not null, by_id uuid not null references people, verdict jsonb not null, snapshot jsonb not null,
  primary key (deal_id, from_stage, target, day)
);
create table deal_spans (
  deal_id uuid not null references deals, aspect text not null, value jsonb not null, from_at timestamptz not null, to_at timestamptz,
  primary key (deal_id, aspect, from_at)
);
create unique index deal_spans_one_open on deal_spans (deal_id, aspect) where to_at is null;
create table findings (
  deal_id uuid not null references deals, key text collate "C" not null, opened_at timestamptz not null,
  closed_at timestamptz not null default 'infinity', process_id uuid not null, kind text not null,
  level text not null check (level in ('hold', 'flag')), origin text not null, requirement text, asked_by text,
  primary key (deal_id, key, opened_at), check (opened_at < closed_at)
);
create index findings_by_end on findings (process_id, closed_at, opened_at);
`;

const WORK = `
create table ticks (
  deal_id uuid not null references deals, item text collate "C" not null, ticked_at timestamptz not null, ticked_by uuid not null references people,
  visit_seq integer not null, unticked_at timestamptz, primary key (deal_id, item, ticked_at)
);
create table step_runs (
  deal_id uuid not null references deals, step text collate "C" not null, visit_seq integer not null, run integer not null,
  state text not null, assignee_id uuid references people, due_day date, started_at timestamptz not null, done_at timestamptz,
  done_by uuid references people, result text, captured jsonb not null default '{}', primary key (deal_id, step, visit_seq, run)
);
create table activities (
  id uuid primary key, deal_id uuid not null references deals, kind text not null, happened_at timestamptz not null, recorded_at timestamptz not null,
  by_id uuid not null references people, previous_at timestamptz, journal_seq integer
);
create index activities_by_deal on activities (deal_id, happened_at);
create table tasks (
  id uuid primary key, deal_id uuid not null references deals, title text not null, assignee_id uuid references people, due_day date,
  state text not null, created_at timestamptz not null, done_at timestamptz, step text
);
create index tasks_by_deal on tasks (deal_id, state);
create index tasks_by_assignee on tasks (assignee_id, state, due_day);
create table documents (
  id uuid primary key, deal_id uuid not null references deals, kind text collate "C" not null, name text not null, media_type text not null,
  bytes bigint not null, digest bytea not null, added_at timestamptz not null, added_by uuid not null references people, removed_at timestamptz
);
create index documents_by_deal on documents (deal_id, kind);
create table document_chunks (
  document_id uuid not null references documents, place integer not null, content bytea not null, primary key (document_id, place)
);
create table waivers (
  id uuid primary key, deal_id uuid not null references deals, requirement text collate "C" not null, requirement_text text not null,
  reason text not null, asked_by uuid references people, granted_by uuid references people, state text not null,
  from_at timestamptz, to_at timestamptz, asked_at timestamptz not null
);
create index waivers_by_deal on waivers (deal_id);
create table due_work (
  id uuid primary key, kind text not null, deal_id uuid references deals, due_at timestamptz not null, done_at timestamptz, detail jsonb not null
);
create index due_work_by_time on due_work (due_at) where done_at is null;
create table outgoing_messages (
  id uuid primary key, deal_id uuid references deals, to_id uuid references people, state text not null, body jsonb not null,
  created_at timestamptz not null, sent_at timestamptz
);
create index outgoing_messages_unsent on outgoing_messages (created_at) where sent_at is null;
`;

const JOURNAL = `
create table journal_texts (
  id uuid primary key, deal_id uuid not null references deals, salt bytea not null default decode(replace(gen_random_uuid()::text, '-', ''), 'hex'),
  text text
);
create index journal_texts_by_deal on journal_texts (deal_id);
create table journal (
  id bigint generated always as identity primary key, deal_id uuid not null references deals, seq integer not null, kind text not null,
  stage_id text collate "C" not null, happened_at timestamptz not null, recorded_at timestamptz not null, by_id uuid references people,
  body jsonb not null, text_id uuid references journal_texts, text_digest bytea, previous_hash bytea not null, hash bytea not null,
  unique (deal_id, seq)
);
create function journal_hash(
  previous bytea, deal uuid, seq integer, kind text, stage text, happened timestamptz, recorded timestamptz, person uuid, body jsonb, digest bytea
) returns bytea language sql immutable as $$
  select sha256(convert_to(jsonb_build_array(
    encode(previous, 'hex'), deal, seq, kind, stage, (extract(epoch from happened) * 1000000)::bigint,
    (extract(epoch from recorded) * 1000000)::bigint, person, body, encode(digest, 'hex')
  )::text, 'UTF8'))
$$;
create function chain_journal() returns trigger language plpgsql security definer set search_path = public, pg_temp as $$
declare head deal_heads%rowtype;
begin
  select * into strict head from deal_heads where deal_id = new.deal_id for update;
  new.seq := head.journal_count + 1;
  new.previous_hash := head.journal_hash;
  new.text_digest := null;
  if new.text_id is not null then
    select sha256(salt || convert_to(text, 'UTF8')) into strict new.text_digest from journal_texts where id = new.text_id;
  end if;
  new.hash := journal_hash(
    new.previous_hash, new.deal_id, new.seq, new.kind, new.stage_id, new.happened_at, new.recorded_at, new.by_id, new.body, new.text_digest
  );
  update deal_heads set journal_count = new.seq, journal_hash = new.hash where deal_id = new.deal_id;
  return new;
end $$;
create trigger chain_journal before insert on journal for each row execute function chain_journal();
`;

const DATA = `
create table imports (
  id uuid primary key, file_name text not null, process_id uuid not null references processes, by_id uuid not null references people,
  state text not null check (state in ('uploaded', 'running', 'done', 'failed', 'taken_back')), uploaded_at timestamptz not null,
  bytes bigint not null default 0, settings jsonb, rows_read integer not null default 0, rows_total integer,
  created integer not null default 0, updated integer not null default 0, skipped integer not null default 0, bad integer not null default 0, failure text
);
create index imports_by_time on imports (uploaded_at desc, id);
create table import_chunks (
  import_id uuid not null references imports, place integer not null, content bytea not null, primary key (import_id, place)
);
create table import_bad_rows (
  import_id uuid not null references imports, line integer not null, cells jsonb not null, reason text not null, primary key (import_id, line)
);
create table import_updates (
  import_id uuid not null references imports, deal_id uuid not null references deals, journal_seq integer not null, primary key (import_id, deal_id)
);
create function half_even(value numeric) returns bigint language sql immutable as $$
  select (case when value - floor(value) = 0.5 then floor(value) + abs(mod(floor(value), 2)) else round(value) end)::bigint
$$;
`;
