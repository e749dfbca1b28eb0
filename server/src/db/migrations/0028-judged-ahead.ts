import type { MigrationInterface, QueryRunner } from 'typeorm';

/**
 * What a publish makes of deals, judged before its version is live. Deals are not referred to: they are never deleted, and a
 * reference would lock the row of each.
 */
export class JudgedAhead1700000000028 implements MigrationInterface {
  async up(runner: QueryRunner): Promise<void> {
    await runner.query(`
      create table publish_judgings (
        version_id uuid primary key references process_versions on delete cascade,
        judged_at timestamptz not null,
        horizon bigint not null
      );
      create table judged_deals (
        version_id uuid references publish_judgings on delete cascade,
        deal_id uuid,
        good_until timestamptz,
        written json,
        primary key (version_id, deal_id)
      );
    `);
  }

  async down(runner: QueryRunner): Promise<void> {
    await runner.query('drop table judged_deals, publish_judgings');
  }
}
