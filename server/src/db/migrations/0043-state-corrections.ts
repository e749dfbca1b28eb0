import type { MigrationInterface, QueryRunner } from 'typeorm';

/**
 * What was known on a day (S21): whatever a change says otherwise of the time before it is written down beside the states, which
 * tell what is known now: once more what had been taken to be so until then, and once less what is said to have been instead.
 * What was said otherwise before this migration is told as it is known now.
 */
export class StateCorrections1700000000043 implements MigrationInterface {
  async up(runner: QueryRunner): Promise<void> {
    await runner.query(`
      create table state_corrections (
        id bigint generated always as identity primary key,
        deal_id uuid not null references deals (id),
        process_id uuid not null,
        from_at timestamptz not null,
        to_at timestamptz not null,
        counts smallint not null check (counts in (-1, 1)),
        status text not null,
        stage_id text collate "C" not null,
        standing text not null,
        currency char(3) not null,
        kinds text collate "C" not null,
        value_minor bigint,
        entered_day date not null,
        move_on_day date,
        close_date date,
        owner_id uuid,
        team_id uuid,
        shape integer not null,
        sum_key bigint not null generated always as (
          (shape::bigint << 38)
          | (least(entered_day - date '0001-12-31 BC', (1 << 22) - 1)::bigint << 16)
          | case when move_on_day is null then 0 else least(greatest(move_on_day - entered_day, 0) + 1, (1 << 16) - 1) end
        ) stored,
        check (from_at < to_at)
      );
      create index state_corrections_past on state_corrections (process_id, to_at, from_at) where status = 'open';
      create index state_corrections_of_deal on state_corrections (deal_id);
      create trigger number_shape_on_insert before insert on state_corrections for each row execute function number_shape();
    `);
  }

  async down(runner: QueryRunner): Promise<void> {
    await runner.query('drop table state_corrections');
  }
}
