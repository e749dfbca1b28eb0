import type { MigrationInterface, QueryRunner } from 'typeorm';

/** Tasks as they are worked, and what a person's day is read by. The table of the ground was never written to. */
export class Tasks1700000000013 implements MigrationInterface {
  async up(runner: QueryRunner): Promise<void> {
    await runner.query('drop table tasks');
    await runner.query(TABLE);
    await runner.query(BESIDE);
  }

  async down(): Promise<void> {
    throw new Error('This migration cannot be taken back: tasks would be lost.');
  }
}

const TABLE = `
create table tasks (
  deal_id uuid not null references deals, seq integer not null, made_at timestamptz not null, ended_at timestamptz, due_day date not null, ended_day date,
  made_by uuid references people, ended_by uuid references people, assignee_id uuid references people, made_move integer, move_seq integer,
  title text not null, due_time text collate "C", how text check (how in ('done', 'cancelled', 'withdrawn')), set_id text collate "C", set_item text collate "C",
  made_actor text collate "C", ended_actor text collate "C", primary key (deal_id, seq),
  constraint tasks_ended check (num_nonnulls(ended_at, ended_day, how) in (0, 3)),
  constraint tasks_maker check (num_nonnulls(made_by, made_actor) = 1),
  constraint tasks_actor check (num_nonnulls(ended_by, ended_actor) = num_nonnulls(ended_at)),
  constraint tasks_origin check (num_nonnulls(set_id, set_item) in (0, 2))
);
create index tasks_of on tasks (assignee_id, due_day) where ended_at is null;
create index tasks_done on tasks (ended_by, ended_day) where how = 'done';
`;

/* Steps by whom they were passed to and who ended them; closed deals that are to be looked at again. */
const BESIDE = `
create index step_runs_of on step_runs (assignee_id) where assignee_id is not null and ended_at is null and not taken_back;
create index step_runs_done_by on step_runs (ended_by, ended_day) where how = 'result' and not taken_back;
create index deals_team_follow_up on deals (team_id, follow_up_day) where follow_up_day is not null;
create index deals_owner_follow_up on deals (owner_id, follow_up_day) where follow_up_day is not null;
alter table processes add column task_fates jsonb not null default '{"forward": "keep", "return": "keep", "closing": "ask"}';
`;
