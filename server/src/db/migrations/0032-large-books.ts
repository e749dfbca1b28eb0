import type { MigrationInterface, QueryRunner } from 'typeorm';

/**
 * What a page of a million deals reads stands together. The index of what is shown has all that lanes, compliance and movement
 * read: the rows themselves are six times as many pages as the cache holds. Standing findings stand in the order of their list,
 * moves that went over a stage apart from the others. That few open deals stay on a version is told to the planner, which thought
 * of the closed ones, all of which do. Runs of steps say whose the deal was when they ended, as moves do (S32), and whether they
 * count, so that they are measured without looking at their deals.
 */
export class LargeBooks1700000000032 implements MigrationInterface {
  async up(runner: QueryRunner): Promise<void> {
    await runner.query(`
      drop index deal_states_shown;
      create index deal_states_shown on deal_states (process_id, status, shown_from, to_at)
        include (stage_id, standing, kinds, currency, value_minor, entered_day, move_on_day, close_date, owner_id, team_id) where shown_from < 'infinity';
      drop index deals_staying;
      create index deals_staying on deals (process_id, version_id, id) where status = 'open' and version_id is not null;
      create statistics deals_followed (mcv) on status, process_id, version_id from deals;
      create index findings_standing on findings (process_id, (level = 'flag'), opened_at, deal_id, key) where closed_at = 'infinity';
      drop index moves_by_day;
      create index moves_by_day on moves (process_id, day) include (kind, from_stage, to_stage, stay_days, owner_id, team_id) where counts;
      create index moves_over on moves (process_id, day) include (deal_id, over_stages) where counts and kind in ('skip', 'won');
      alter table deal_states set (autovacuum_vacuum_scale_factor = 0.02, autovacuum_vacuum_insert_scale_factor = 0.02);

      alter table step_runs add column process_id uuid, add column owner_id uuid references people, add column team_id uuid references teams,
        add column counts boolean not null default true;
      update step_runs r set process_id = d.process_id, counts = d.status <> 'voided', owner_id = d.owner_id, team_id = d.team_id from deals d where d.id = r.deal_id;
      update step_runs r set owner_id = s.owner_id, team_id = s.team_id from deal_states s
        where s.deal_id = r.deal_id and r.ended_at >= s.from_at and r.ended_at < s.to_at and (s.owner_id, s.team_id) is distinct from (r.owner_id, r.team_id);
      alter table step_runs alter column process_id set not null, alter column counts drop default;
      create index step_runs_measured on step_runs (process_id, ended_day) include (stage_id, step, result, begun_day, owner_id, team_id)
        where how = 'result' and not taken_back and counts;
      create index step_runs_at_hand on step_runs (process_id, stage_id, step) include (due_day, deal_id) where ended_at is null and not taken_back and counts;
    `);
  }

  async down(runner: QueryRunner): Promise<void> {
    await runner.query(`
      alter table step_runs drop column process_id, drop column owner_id, drop column team_id, drop column counts;
      drop index findings_standing;
      drop index moves_over;
      drop index moves_by_day;
      create index moves_by_day on moves (process_id, day) include (kind, from_stage, to_stage, stay_days) where counts;
      drop statistics deals_followed;
      drop index deals_staying;
      create index deals_staying on deals (version_id) where status = 'open' and version_id is not null;
      alter table deal_states reset (autovacuum_vacuum_scale_factor, autovacuum_vacuum_insert_scale_factor);
      drop index deal_states_shown;
      create index deal_states_shown on deal_states (process_id, status, shown_from, to_at) where shown_from < 'infinity';
    `);
  }
}
