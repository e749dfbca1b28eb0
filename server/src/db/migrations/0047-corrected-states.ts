import type { MigrationInterface, QueryRunner } from 'typeorm';
import { StateCorrections1700000000043 } from './0043-state-corrections.ts';

const SAID =
  'deal_id, process_id, from_at, to_at, status, stage_id, standing, currency, kinds, value_minor, entered_day, move_on_day, close_date, owner_id, team_id';

/**
 * What was taken to be so, and what was so unknown, are rows of the states that no list shows: how deals stand, as of now, of a
 * day, and as it was known on it, is read of one table. They stay as they were written, whoever may change states. When in its day
 * a stay began, and how much was owed, corrections did not say: nothing asks it of them. What was judged ahead for a publish that
 * goes on is judged again, for its rows say less than is written now.
 */
export class CorrectedStates1700000000047 implements MigrationInterface {
  async up(runner: QueryRunner): Promise<void> {
    await runner.query(`
      create sequence correction_numbers;
      alter table deal_states drop constraint deal_states_pkey, alter column shown_from drop not null,
        add column correction bigint not null default 0;
      insert into deal_states (${SAID}, entered_at, findings, owed, correction)
        select ${SAID}, entered_day::timestamp at time zone 'UTC', coalesce(cardinality(array_remove(string_to_array(kinds, ' '), '')), 0), 0,
          counts * nextval('correction_numbers') from state_corrections;
      drop table state_corrections;
      alter table deal_states add primary key (deal_id, from_at, correction),
        add constraint deal_states_correction_check check ((correction = 0) = (shown_from is not null));
      alter sequence correction_numbers owned by deal_states.correction;
      create index deal_states_corrected on deal_states (process_id, to_at, from_at) where correction <> 0 and status = 'open';
      create function keep_corrections() returns trigger language plpgsql as $$
      begin
        raise exception 'What was taken to be so stays as it was' using errcode = 'restrict_violation', constraint = 'corrections_stay';
      end $$;
      create trigger corrections_stay before update or delete on deal_states for each row
        when (old.correction <> 0) execute function keep_corrections();
      update judged_deals set written = null;
    `);
  }

  async down(runner: QueryRunner): Promise<void> {
    await new StateCorrections1700000000043().up(runner);
    await runner.query(`
      drop index state_corrections_of_deal;
      insert into state_corrections (${SAID}, counts) select ${SAID}, sign(correction) from deal_states where correction <> 0;
      drop trigger corrections_stay on deal_states;
      drop function keep_corrections();
      drop index deal_states_corrected;
      delete from deal_states where correction <> 0;
      alter table deal_states drop constraint deal_states_correction_check, drop constraint deal_states_pkey, add primary key (deal_id, from_at);
      alter table deal_states drop column correction, alter column shown_from set not null;
      update judged_deals set written = null;
    `);
  }
}
