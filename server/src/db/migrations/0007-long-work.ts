import type { MigrationInterface, QueryRunner } from 'typeorm';

/**
 * Work that goes through a whole book stands in one table, whatever its kind: how far it is, how it ended. What imports
 * kept of that themselves moves there.
 */
export class LongWork1700000000007 implements MigrationInterface {
  async up(runner: QueryRunner): Promise<void> {
    await runner.query(`
      create table long_work (
        id uuid primary key, place bigint generated always as identity unique, kind text not null check (kind in ('import', 'take_back', 'publish', 'house_rules', 'rate')),
        subject text collate "C" not null, request jsonb not null, by_id uuid not null references people,
        state text not null check (state in ('running', 'done', 'failed', 'cancelled')),
        started_at timestamptz not null, ended_at timestamptz, done integer not null default 0, total integer,
        cancel_asked boolean not null default false, deals integer, problem jsonb,
        constraint long_work_ended check ((state = 'running') = (ended_at is null)),
        constraint long_work_outcome check ((state = 'done') = (deals is not null) and (state = 'failed') = (problem is not null))
      );
      create unique index long_work_one_at_a_time on long_work (subject) where state = 'running';
      create index long_work_by_subject on long_work (subject, place);
      insert into long_work (id, kind, subject, request, by_id, state, started_at, ended_at, done, total, problem)
      select gen_random_uuid(), case when state in ('running', 'failed') then 'import' else 'take_back' end, id::text,
        case when state in ('running', 'failed') then settings else '{}' end, coalesce(taking_back_by, by_id),
        case when failure is null then 'running' else 'failed' end, uploaded_at, case when failure is not null then uploaded_at end,
        case when state = 'taking_back' then taken_back else rows_read end, case when state = 'taking_back' then created + updated else rows_total end,
        case when failure is not null then jsonb_build_object('type', 'about:blank', 'title', 'Problem', 'status', 409, 'detail', failure) end
      from imports where state in ('running', 'failed', 'taking_back') or failure is not null;
      drop index imports_at_work;
      alter table imports drop constraint imports_state_check;
      update imports set state = case state when 'taking_back' then 'done' else 'uploaded' end where state in ('running', 'failed', 'taking_back');
      alter table imports add constraint imports_state_check check (state in ('uploaded', 'done', 'taken_back'));
      alter table imports drop column rows_read, drop column failure, drop column taking_back_by, drop column taken_back;
    `);
  }

  async down(): Promise<void> {
    throw new Error('This migration cannot be taken back: work under way would be lost.');
  }
}
