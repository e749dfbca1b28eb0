import type { MigrationInterface, QueryRunner } from 'typeorm';

/** A day finds what was kept of the team's closed deals without going through all that is nobody's in the book. */
export class ClosedDeals1700000000022 implements MigrationInterface {
  async up(runner: QueryRunner): Promise<void> {
    await runner.query(`create index deals_team_closed on deals (team_id) where status in ('won', 'lost')`);
  }

  async down(runner: QueryRunner): Promise<void> {
    await runner.query('drop index deals_team_closed');
  }
}
