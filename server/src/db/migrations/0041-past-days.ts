import type { MigrationInterface, QueryRunner } from 'typeorm';

/**
 * Lanes and compliance are told of past days: with all that they are added up from and narrowed by at hand, as of now. Who stayed
 * on which version is told by the version, not by going through all that ever stayed.
 */
export class PastDays1700000000041 implements MigrationInterface {
  async up(runner: QueryRunner): Promise<void> {
    await runner.query(`
      drop index deal_states_past;
      create index deal_states_past on deal_states (process_id, span, from_at)
        include (to_at, shape, value_minor, entered_day, move_on_day, close_date, owner_id, team_id) where status = 'open';
      create index deal_stays_version on deal_stays (version_id, to_at);
    `);
  }

  async down(runner: QueryRunner): Promise<void> {
    await runner.query(`
      drop index deal_stays_version;
      drop index deal_states_past;
      create index deal_states_past on deal_states (process_id, span, from_at) include (to_at, shape, value_minor) where status = 'open';
    `);
  }
}
