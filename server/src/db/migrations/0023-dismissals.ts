import type { MigrationInterface, QueryRunner } from 'typeorm';

/** Suggestions of the design check that were dismissed, with why. */
export class Dismissals1700000000023 implements MigrationInterface {
  async up(runner: QueryRunner): Promise<void> {
    await runner.query(`
      create table dismissals (
        process_id uuid not null references processes, remark text collate "C" not null, reason text not null,
        by_id uuid not null references people, at timestamptz not null, primary key (process_id, remark)
      );
    `);
  }

  async down(runner: QueryRunner): Promise<void> {
    await runner.query('drop table dismissals');
  }
}
