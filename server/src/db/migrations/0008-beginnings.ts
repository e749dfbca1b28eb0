import type { MigrationInterface, QueryRunner } from 'typeorm';

/** How often a long work was begun without coming to an end of any kind: one that ends its thread each time is given up. */
export class Beginnings1700000000008 implements MigrationInterface {
  async up(runner: QueryRunner): Promise<void> {
    await runner.query(`alter table long_work add column begun integer not null default 0`);
  }

  async down(runner: QueryRunner): Promise<void> {
    await runner.query(`alter table long_work drop column begun`);
  }
}
