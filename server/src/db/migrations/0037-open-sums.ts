import type { MigrationInterface, QueryRunner } from 'typeorm';

const TARGET =
  'open_sums (process_id, at, stage_id, standing, currency, kinds, entered_day, move_on_day, deals, valued, minor)';
const STANDS_SO = 'process_id, at, stage_id, standing, currency, kinds, entered_day, move_on_day';

/** What states add from when they are shown and take away again when they are over; with `sign` -1 what they added. */
const turnsOf = (states: string): string => `(${states}) s
  cross join lateral (values (s.shown_from, s.sign), (s.to_at, -s.sign)) turn (at, counts)
  where s.status = 'open' and s.shown_from < 'infinity' and at < 'infinity'`;

const oneByOne = (states: string): string => `
  insert into ${TARGET} select ${STANDS_SO}, counts, case when value_minor is null then 0 else counts end, coalesce(counts * value_minor, 0)
  from ${turnsOf(states)}`;

const inGroups = (states: string): string => `
  insert into ${TARGET} select ${STANDS_SO}, sum(counts), coalesce(sum(counts) filter (where value_minor is not null), 0), coalesce(sum(counts * value_minor), 0)
  from ${turnsOf(states)} group by ${STANDS_SO}
  having sum(counts) <> 0 or sum(counts) filter (where value_minor is not null) <> 0 or sum(counts * value_minor) <> 0`;

/** What open deals add up to is kept as it comes about: whoever writes states writes too what is more from when on, and what is less. */
const OPERATIONS = [
  { operation: 'insert', tables: 'new table as is_so', written: 'is_so', states: 'select *, 1 as sign from is_so' },
  {
    operation: 'update',
    tables: 'old table as was_so new table as is_so',
    written: 'is_so',
    states: 'select *, 1 as sign from is_so union all select *, -1 from was_so',
  },
  { operation: 'delete', tables: 'old table as was_so', written: 'was_so', states: 'select *, -1 as sign from was_so' },
];

/** So many states of one deal or two are added up sooner when the sums are folded. */
const FEW = 20;

export class OpenSums1700000000037 implements MigrationInterface {
  async up(runner: QueryRunner): Promise<void> {
    await runner.query(`
      create table open_sums (
        process_id uuid not null references processes (id),
        at timestamptz not null,
        id bigint generated always as identity,
        stage_id text collate "C" not null,
        standing text not null,
        currency char(3) not null,
        kinds text collate "C" not null,
        entered_day date not null,
        move_on_day date,
        deals integer not null,
        valued integer not null default 0,
        minor numeric not null default 0,
        folded boolean not null default false,
        primary key (process_id, at, id)
      );
      alter table open_sums set (autovacuum_vacuum_scale_factor = 0.05, autovacuum_vacuum_insert_scale_factor = 0.05);
    `);
    for (const { operation, tables, written, states } of OPERATIONS)
      await runner.query(`
        create function sum_states_on_${operation}() returns trigger language plpgsql as $$
        declare states integer;
        begin
          select count(*) into states from ${written};
          if states > ${FEW} then ${inGroups(states)};
          elsif states > 0 then ${oneByOne(states)};
          end if;
          return null;
        end $$;
        create trigger sum_states_on_${operation} after ${operation} on deal_states referencing ${tables}
          for each statement execute function sum_states_on_${operation}();
      `);
    await runner.query(inGroups('select *, 1 as sign from deal_states'));
  }

  async down(runner: QueryRunner): Promise<void> {
    for (const { operation } of OPERATIONS)
      await runner.query(`
        drop trigger sum_states_on_${operation} on deal_states;
        drop function sum_states_on_${operation}();
      `);
    await runner.query('drop table open_sums');
  }
}
