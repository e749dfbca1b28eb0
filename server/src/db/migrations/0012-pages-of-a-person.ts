import type { MigrationInterface, QueryRunner } from 'typeorm';

/** Pages of all deals keep their indexes to themselves, so that a page of a team or a person is read by its own. */
export class PagesOfAPerson1700000000012 implements MigrationInterface {
  async up(runner: QueryRunner): Promise<void> {
    await runner.query(`
      drop index deal_states_by_age;
      drop index deal_states_by_status;
      create index deal_states_by_age on deal_states (process_id, status, entered_at, deal_id)
        where shown_from < 'infinity' and entered_at > '-infinity';
      create index deal_states_by_status on deal_states (status, entered_at, deal_id)
        where shown_from < 'infinity' and entered_at > '-infinity';
    `);
  }

  async down(runner: QueryRunner): Promise<void> {
    await runner.query(`
      drop index deal_states_by_age;
      drop index deal_states_by_status;
      create index deal_states_by_age on deal_states (process_id, status, entered_at, deal_id) where shown_from < 'infinity';
      create index deal_states_by_status on deal_states (status, entered_at, deal_id) where shown_from < 'infinity';
    `);
  }
}
