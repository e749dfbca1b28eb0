import type { MigrationInterface, QueryRunner } from 'typeorm';

/**
 * Days of grace become a fact of the publish, rates convert exactly, a deal has a currency of its own and knows when its
 * newest record was written; imports remember in which order the dates of each column are written, and whom they made.
 */
export class GraceAndRates1700000000002 implements MigrationInterface {
  async up(runner: QueryRunner): Promise<void> {
    for (const part of [GRACE, DEALS, RATES, IMPORTS]) await runner.query(part);
  }

  async down(): Promise<void> {
    throw new Error('This migration cannot be taken back: what each deal had as its grace is told by publish now.');
  }
}

/* A deal told its own grace; the publish that gave it tells it for all that it moved over. */
const GRACE = `
alter table process_versions add column grace jsonb;
with given as (
  select d.version_id, came.value #>> '{}' as came_from, r.requirement, (d.grace->>'until')::numeric::bigint as until
  from deals d
  cross join lateral (
    select value from deal_spans s where s.deal_id = d.id and s.aspect = 'version' and s.to_at is not null order by s.to_at desc limit 1
  ) came
  cross join lateral jsonb_array_elements_text(d.grace->'requirements') r (requirement)
  where jsonb_typeof(d.grace) = 'object'
), by_origin as (
  select version_id, came_from, jsonb_object_agg(requirement, null) as changed, max(until) as until from given group by 1, 2
), by_version as (
  select version_id, max(until) as until, jsonb_object_agg(came_from, changed) as changed from by_origin group by 1
)
update process_versions v set grace = jsonb_build_object('until', g.until, 'changed', g.changed) from by_version g where g.version_id = v.id;
create or replace function published_versions_stay() returns trigger language plpgsql as $$
begin
  if old.state <> 'draft' and (new.document <> old.document or new.fields <> old.fields or new.number <> old.number
    or new.grace is distinct from old.grace or new.state = 'draft') then
    raise exception 'A published version cannot be changed' using errcode = 'restrict_violation', constraint = 'published_versions_stay';
  end if;
  return new;
end $$;
`;

const DEALS = `
update deals d set currency = coalesce(d.currency, v.document->>'currency'),
  path = (
    select jsonb_agg(step || jsonb_build_object(
      'skipped', case when step->>'kind' = 'skip' and step->>'forced' = 'no' then step->'owes' else '[]'::jsonb end,
      'flagged', '[]'::jsonb, 'graceUntil', null) order by place)
    from jsonb_array_elements(d.path) with ordinality as steps (step, place)
  )
from process_versions v where v.id = d.version_id;
alter table deals drop column grace, alter column currency set not null;
alter table deal_heads add column settled_at timestamptz;
update deal_heads h set settled_at = coalesce(
  (select max(recorded_at) from journal j where j.deal_id = h.deal_id), (select created_at from deals d where d.id = h.deal_id));
alter table deal_heads alter column settled_at set not null;
`;

const RATES = `
create function half_even_ratio(dividend numeric, divisor numeric) returns numeric language sql immutable strict as $$
  select sign(dividend) * (whole + case when 2 * rest > divisor or (2 * rest = divisor and mod(whole, 2) = 1) then 1 else 0 end)
  from (select div(abs(dividend), divisor) as whole, abs(dividend) - div(abs(dividend), divisor) * divisor as rest) parts
$$;
create function convert_minor(minor bigint, rate numeric, turned boolean, shift integer) returns numeric language sql immutable strict as $$
  select case when abs(converted) <= 9007199254740991 then converted end from (select half_even_ratio(
    minor * (case when turned then 1 else rate end) * (case when shift > 0 then ('1e' || shift)::numeric else 1 end),
    (case when turned then rate else 1 end) * (case when shift < 0 then ('1e' || -shift)::numeric else 1 end)) as converted) c
$$;
drop function half_even(numeric);
`;

const IMPORTS = `
alter table imports add column date_orders jsonb not null default '{"delimiter": ",", "readings": []}';
alter table customers add column withdrawn_at timestamptz;
alter table contacts add column import_id uuid, add column withdrawn_at timestamptz;
create index customers_by_import on customers (import_id) where import_id is not null;
create index contacts_by_import on contacts (import_id) where import_id is not null;
alter table import_updates add column seq_before integer;
update import_updates set seq_before = journal_seq - 1;
alter table import_updates alter column seq_before set not null;
`;
