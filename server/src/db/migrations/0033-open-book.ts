import type { MigrationInterface, QueryRunner } from 'typeorm';

/**
 * The index that lanes, compliance and movement add up is of open deals alone: that each is open was looked at deal by deal, and
 * closed ones made it larger. The journal's hash is computed by a function whose plan the session keeps: it was planned anew in
 * each transaction, which took longer than hashing. What was done is counted from its index alone, with by whom and how late; whose
 * deals are is looked up by team and owner, for reports go by it and a deal's row is wide.
 */
export class OpenBook1700000000033 implements MigrationInterface {
  async up(runner: QueryRunner): Promise<void> {
    await runner.query(`
      drop index deal_states_shown;
      create index deal_states_open on deal_states (process_id, shown_from, to_at)
        include (stage_id, standing, kinds, currency, value_minor, entered_day, move_on_day, close_date, owner_id, team_id)
        where shown_from < 'infinity' and status = 'open';
      create index deals_of_team on deals (team_id, process_id, status, id) include (owner_id);
      create index deals_of_owner on deals (owner_id, process_id, status, id) include (team_id);
      create index step_runs_by_due on step_runs (process_id, coalesce(due_day, 'infinity'::date), deal_id, seq)
        where ended_at is null and not taken_back and counts;
      drop index step_runs_done;
      drop index step_runs_measured;
      create index step_runs_measured on step_runs (process_id, ended_day)
        include (stage_id, step, result, begun_day, owner_id, team_id, ended_by, due_day, deal_id) where how = 'result' and not taken_back and counts;
      create or replace function journal_hash(
        previous bytea, deal uuid, seq integer, kind text, stage text, happened timestamptz, recorded timestamptz, actor text, body jsonb, digest bytea
      ) returns bytea language plpgsql immutable as $$
      begin
        return sha256(convert_to(jsonb_build_array(
          encode(previous, 'hex'), deal, seq, kind, stage, (extract(epoch from happened) * 1000000)::bigint,
          (extract(epoch from recorded) * 1000000)::bigint, actor, body, encode(digest, 'hex')
        )::text, 'UTF8'));
      end $$;
    `);
  }

  async down(runner: QueryRunner): Promise<void> {
    await runner.query(`
      drop index deals_of_team;
      drop index deals_of_owner;
      create or replace function journal_hash(
        previous bytea, deal uuid, seq integer, kind text, stage text, happened timestamptz, recorded timestamptz, actor text, body jsonb, digest bytea
      ) returns bytea language sql immutable as $$
        select sha256(convert_to(jsonb_build_array(
          encode(previous, 'hex'), deal, seq, kind, stage, (extract(epoch from happened) * 1000000)::bigint,
          (extract(epoch from recorded) * 1000000)::bigint, actor, body, encode(digest, 'hex')
        )::text, 'UTF8'))
      $$;
      drop index step_runs_by_due;
      drop index step_runs_measured;
      create index step_runs_measured on step_runs (process_id, ended_day) include (stage_id, step, result, begun_day, owner_id, team_id)
        where how = 'result' and not taken_back and counts;
      create index step_runs_done on step_runs (ended_day) where how = 'result' and not taken_back;
      drop index deal_states_open;
      create index deal_states_shown on deal_states (process_id, status, shown_from, to_at)
        include (stage_id, standing, kinds, currency, value_minor, entered_day, move_on_day, close_date, owner_id, team_id) where shown_from < 'infinity';
    `);
  }
}
