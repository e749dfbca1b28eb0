import type { MigrationInterface, QueryRunner } from 'typeorm';
import { OpenSums1700000000037 } from './0037-open-sums.ts';
import { SumsByKey1700000000045 } from './0045-sums-by-key.ts';

/**
 * No sums are kept beside the states: in the order of what they are added up by, and without what is over, states are gone
 * through in little more time than the plainest statement takes. As of now and of any day, two indexes have what is not over; a
 * third has the rest, so that each state stands in one of them.
 */
export class StatesAlone1700000000046 implements MigrationInterface {
  async up(runner: QueryRunner): Promise<void> {
    await runner.query(`
      drop trigger sum_states_on_insert on deal_states;
      drop trigger sum_states_on_update on deal_states;
      drop trigger sum_states_on_delete on deal_states;
      drop function sum_states_on_insert();
      drop function sum_states_on_update();
      drop function sum_states_on_delete();
      drop table open_sums;
      drop index deal_states_shown;
      drop index deal_states_turned;
      drop index deal_states_past;
      create index deal_states_shown on deal_states (process_id, sum_key)
        include (to_at, from_at, value_minor, close_date, owner_id, team_id)
        where shown_from = '-infinity' and status = 'open';
      create index deal_states_turned on deal_states (process_id, shown_from, to_at)
        include (sum_key, value_minor, close_date, owner_id, team_id)
        where shown_from > '-infinity' and shown_from < 'infinity' and status = 'open';
      create index deal_states_over on deal_states (process_id, span, from_at, to_at)
        include (sum_key, value_minor) where shown_from = 'infinity' and status = 'open';
    `);
  }

  async down(runner: QueryRunner): Promise<void> {
    await runner.query(`
      drop index deal_states_over;
      create index deal_states_past on deal_states (process_id, span, from_at, to_at)
        include (sum_key, value_minor) where status = 'open';
    `);
    await new OpenSums1700000000037().up(runner);
    await new SumsByKey1700000000045().up(runner);
  }
}
