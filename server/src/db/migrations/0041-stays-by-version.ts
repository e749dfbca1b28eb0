import type { MigrationInterface, QueryRunner } from 'typeorm';

/** Who stayed on which version is asked for a past day too: by the version, not by going through all that ever stayed. */
export class StaysByVersion1700000000041 implements MigrationInterface {
  async up(runner: QueryRunner): Promise<void> {
    await runner.query('create index deal_stays_version on deal_stays (version_id, to_at)');
  }

  async down(runner: QueryRunner): Promise<void> {
    await runner.query('drop index deal_stays_version');
  }
}
