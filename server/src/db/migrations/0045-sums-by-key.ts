import type { MigrationInterface, QueryRunner } from 'typeorm';

/** How sums are told apart. */
interface Sums {
  readonly columns: string;
  readonly group: string;
}

const BY_KEY: Sums = { columns: 'sum_key bigint not null', group: 'sum_key' };
const BY_WORDS: Sums = {
  columns: `stage_id text collate "C" not null, standing text not null, currency char(3) not null, kinds text collate "C" not null,
        entered_day date not null, move_on_day date`,
  group: 'stage_id, standing, currency, kinds, entered_day, move_on_day',
};

/** What states add from when they are shown and take away again when they are over; with `sign` -1 what they added. */
const turnsOf = (states: string): string => `(${states}) s
  cross join lateral (values (s.shown_from, s.sign), (s.to_at, -s.sign)) turn (at, counts)
  where s.status = 'open' and s.shown_from < 'infinity' and at < 'infinity'`;

const oneByOne = ({ group }: Sums, states: string): string => `
  insert into open_sums (process_id, at, ${group}, deals, valued, minor)
  select process_id, at, ${group}, counts, case when value_minor is null then 0 else counts end, coalesce(counts * value_minor, 0)
  from ${turnsOf(states)}`;

const inGroups = ({ group }: Sums, states: string): string => `
  insert into open_sums (process_id, at, ${group}, deals, valued, minor)
  select process_id, at, ${group}, sum(counts), coalesce(sum(counts) filter (where value_minor is not null), 0), coalesce(sum(counts * value_minor), 0)
  from ${turnsOf(states)} group by process_id, at, ${group}
  having sum(counts) <> 0 or sum(counts) filter (where value_minor is not null) <> 0 or sum(counts * value_minor) <> 0`;

const OPERATIONS = [
  { operation: 'insert', written: 'is_so', states: 'select *, 1 as sign from is_so' },
  {
    operation: 'update',
    written: 'is_so',
    states: 'select *, 1 as sign from is_so union all select *, -1 from was_so',
  },
  { operation: 'delete', written: 'was_so', states: 'select *, -1 as sign from was_so' },
];

/** So many states of one deal or two are added up sooner when the sums are folded. */
const FEW = 20;

/**
 * The sums that are kept of open deals go by the same number as the states that they are of, `sum_key`: they are states added up
 * ahead, and what is asked of either is one statement. Whether a deal is past its target is told by that number too, so that the
 * day to move on by leaves the indexes.
 */
export class SumsByKey1700000000045 implements MigrationInterface {
  async up(runner: QueryRunner): Promise<void> {
    await keepSums(runner, BY_KEY);
    await indexShown(runner, 'sum_key, value_minor, close_date, owner_id, team_id');
  }

  async down(runner: QueryRunner): Promise<void> {
    await indexShown(runner, 'sum_key, value_minor, move_on_day, close_date, owner_id, team_id');
    await keepSums(runner, BY_WORDS);
  }
}

const indexShown = (runner: QueryRunner, read: string): Promise<void> =>
  runner.query(`
    drop index deal_states_shown;
    drop index deal_states_turned;
    create index deal_states_shown on deal_states (process_id, shape) include (to_at, ${read})
      where shown_from = '-infinity' and status = 'open';
    create index deal_states_turned on deal_states (process_id, shown_from, to_at) include (shape, ${read})
      where shown_from > '-infinity' and shown_from < 'infinity' and status = 'open';
  `);

async function keepSums(runner: QueryRunner, sums: Sums): Promise<void> {
  await runner.query(`
    drop table open_sums;
    create table open_sums (
      process_id uuid not null references processes (id),
      at timestamptz not null,
      id bigint generated always as identity,
      ${sums.columns},
      deals integer not null,
      valued integer not null default 0,
      minor numeric not null default 0,
      folded boolean not null default false,
      primary key (process_id, at, id)
    );
    alter table open_sums set (autovacuum_vacuum_scale_factor = 0.05, autovacuum_vacuum_insert_scale_factor = 0.05);
  `);
  for (const { operation, written, states } of OPERATIONS)
    await runner.query(`
      create or replace function sum_states_on_${operation}() returns trigger language plpgsql as $$
      declare states integer;
      begin
        select count(*) into states from ${written};
        if states > ${FEW} then ${inGroups(sums, states)};
        elsif states > 0 then ${oneByOne(sums, states)};
        end if;
        return null;
      end $$;
    `);
  await runner.query(inGroups(sums, 'select *, 1 as sign from deal_states'));
}
