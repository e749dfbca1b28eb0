import type { MigrationInterface, QueryRunner } from 'typeorm';

/** Guided steps as they are carried out. The table of the ground was never written to, and knew neither threads nor who but a person ended a run. */
export class StepRuns1700000000010 implements MigrationInterface {
  async up(runner: QueryRunner): Promise<void> {
    await runner.query('drop table step_runs');
    await runner.query(TABLE);
  }

  async down(): Promise<void> {
    throw new Error('This migration cannot be taken back: what was done in guided steps would be lost.');
  }
}

const TABLE = `
create table step_runs (
  deal_id uuid not null references deals, seq integer not null, visit_seq integer not null, begun_day date not null, begun_at timestamptz not null,
  ended_at timestamptz, goes_on_at timestamptz, due_day date, ended_day date, assignee_id uuid references people, ended_by uuid references people, move_seq integer,
  goes_on_days integer,  owed boolean not null, taken_back boolean not null, stage_id text collate "C" not null, step text collate "C" not null, name text not null,
  how text check (how in ('result', 'carried', 'left', 'withdrawn')), thread text check (thread in ('goes_on', 'finished', 'broken_off')),
  result text collate "C", result_name text, goes_on_result text collate "C", did jsonb, ended_actor text collate "C", primary key (deal_id, seq),
  constraint step_runs_ended check (num_nonnulls(ended_at, ended_day, how, thread) in (0, 4)),
  constraint step_runs_actor check (num_nonnulls(ended_by, ended_actor) = num_nonnulls(ended_at))
);
create unique index step_runs_one_at_hand on step_runs (deal_id, stage_id, visit_seq, owed) where ended_at is null and not taken_back;
create index step_runs_done on step_runs (ended_day) where how = 'result' and not taken_back;
create index step_runs_due on step_runs (goes_on_at) where goes_on_at is not null and ended_at is null and not taken_back;
`;
