import type { MigrationInterface, QueryRunner } from 'typeorm';

/**
 * Movement of a period that has gone by, and as it was known at its end (S12, S21): a move that counts no longer says why and since
 * when, and what was once the result of a step stays beside its run. Deals that have ended are found by the moves that ended them,
 * whose index has all that is asked of them. Results that were taken back before this are told as they are known now.
 */
export class MeasuresKnownThen1700000000044 implements MigrationInterface {
  async up(runner: QueryRunner): Promise<void> {
    await runner.query(`
      alter table moves add column reopened_at timestamptz, add column voided_at timestamptz;
      update moves m set voided_at = d.closed_at from deals d where d.id = m.deal_id and d.status = 'voided';
      update moves m set reopened_at = r.recorded_at from moves r
        where not m.counts and m.kind in ('won', 'lost') and m.taken_back_at is null and r.deal_id = m.deal_id
          and r.seq = (select min(seq) from moves n where n.deal_id = m.deal_id and n.seq > m.seq and n.kind = 'reopen');
      drop index deals_by_closing;
      create index moves_closing on moves (process_id, day) include (kind, deal_id, outcome_id, reporting_minor, owner_id, team_id)
        where counts and kind in ('won', 'lost');
      create index moves_dropped on moves (process_id, day) where not counts;
      create index moves_recorded_late on moves (process_id, day) include (recorded_at, kind, from_stage, to_stage, stay_days, owner_id, team_id)
        where counts and recorded_at > happened_at;

      create table dropped_results (
        id bigint generated always as identity primary key,
        deal_id uuid not null references deals (id),
        process_id uuid not null,
        stage_id text collate "C" not null,
        step text collate "C" not null,
        result text collate "C" not null,
        begun_day date not null,
        ended_day date not null,
        owner_id uuid,
        team_id uuid,
        dropped_at timestamptz not null
      );
      create index dropped_results_by_day on dropped_results (process_id, ended_day);
      insert into dropped_results (deal_id, process_id, stage_id, step, result, begun_day, ended_day, owner_id, team_id, dropped_at)
        select r.deal_id, r.process_id, r.stage_id, r.step, r.result, r.begun_day, r.ended_day, r.owner_id, r.team_id, d.closed_at
        from step_runs r join deals d on d.id = r.deal_id where r.how = 'result' and not r.taken_back and d.status = 'voided';
      -- Nothing asks for corrections by their deal.
      drop index state_corrections_of_deal;
    `);
  }

  async down(runner: QueryRunner): Promise<void> {
    await runner.query(`
      create index state_corrections_of_deal on state_corrections (deal_id);
      drop table dropped_results;
      drop index moves_recorded_late;
      drop index moves_dropped;
      drop index moves_closing;
      create index deals_by_closing on deals (process_id, status, closed_day);
      alter table moves drop column reopened_at, drop column voided_at;
    `);
  }
}
