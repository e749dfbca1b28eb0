import type { MigrationInterface, QueryRunner } from 'typeorm';

/** Which days are counted in working days, so that a change of a calendar finds them; names of holidays. */
export class Calendars1700000000026 implements MigrationInterface {
  async up(runner: QueryRunner): Promise<void> {
    await runner.query(`
      alter table calendars add column holiday_names jsonb not null default '{}';
      alter table visits add column in_working_days boolean not null default false;
      alter table step_runs add column in_working_days boolean not null default false;
      alter table tasks add column in_working_days boolean not null default false;

      create temporary table followed on commit drop as
        select d.id as deal_id, v.document from deals d join process_versions v
          on v.id = coalesce(d.version_id, (select l.id from process_versions l where l.process_id = d.process_id and l.state = 'live'))
        where d.status = 'open';
      create temporary table targets on commit drop as
        select f.deal_id, s->>'id' as stage from followed f, jsonb_array_elements(f.document->'stages') s
        where s->'target'->>'counting' = 'working' and (s->'target'->>'days')::int > 0;
      update visits t set in_working_days = true from targets s
        where s.deal_id = t.deal_id and s.stage = t.stage_id and t.left_at is null and not t.taken_back;
      create temporary table dues on commit drop as
        select f.deal_id, g->>'id' as step from followed f, jsonb_array_elements(f.document->'stages') s, jsonb_array_elements(s->'steps') g
        where g->'due'->>'counting' = 'working' and (g->'due'->>'days')::int > 0;
      update step_runs r set in_working_days = true from dues s
        where s.deal_id = r.deal_id and s.step = r.step and r.ended_at is null and not r.taken_back
          and not exists (select from journal j where j.deal_id = r.deal_id and j.kind = 'step_put_off' and (j.body->>'run')::int = r.seq);
      create temporary table sets on commit drop as
        select f.deal_id, s->>'id' as set_id, t->>'id' as item from followed f, jsonb_array_elements(f.document->'taskSets') s, jsonb_array_elements(s->'tasks') t
        where t->'due'->>'counting' = 'working' and (t->'due'->>'days')::int > 0;
      update tasks t set in_working_days = true from sets s
        where s.deal_id = t.deal_id and s.set_id = t.set_id and s.item = t.set_item and t.ended_at is null
          and not exists (select from journal j where j.deal_id = t.deal_id and j.kind = 'task_put_off' and (j.body->>'task')::int = t.seq);

      create index visits_counted on visits (move_on_day) where left_at is null and not taken_back and in_working_days;
      create index step_runs_counted on step_runs (due_day) where ended_at is null and not taken_back and in_working_days;
      create index tasks_counted on tasks (due_day) where ended_at is null and in_working_days;

      create table day_recounts (
        deal_id uuid not null references deals, part text not null check (part in ('visit', 'run', 'task')), seq integer not null,
        primary key (deal_id, part, seq)
      );
      alter table long_work drop constraint long_work_kind_check;
      alter table long_work add constraint long_work_kind_check check (kind in ('import', 'take_back', 'publish', 'house_rules', 'rate', 'leaving', 'choice', 'formula', 'calendar'));
      alter table settings_log drop constraint settings_log_what_check;
      alter table settings_log add constraint settings_log_what_check check (what in ('account', 'team', 'rate', 'document_kind', 'template', 'field', 'calendar'));
    `);
  }

  async down(): Promise<void> {
    throw new Error(
      'This migration cannot be taken back: it would not be known which days were counted in working days.',
    );
  }
}
