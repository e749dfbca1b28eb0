import type { MigrationInterface, QueryRunner } from 'typeorm';

/** What was expected of a deal that was won is kept beside what came of it. Of deals that closed before it is not known. */
export class Estimates1700000000017 implements MigrationInterface {
  async up(runner: QueryRunner): Promise<void> {
    await runner.query('alter table deals add column estimate jsonb');
  }

  async down(runner: QueryRunner): Promise<void> {
    await runner.query('alter table deals drop column estimate');
  }
}
