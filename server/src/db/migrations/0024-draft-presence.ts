import type { MigrationInterface, QueryRunner } from 'typeorm';

/** Who has which draft open, and was last heard of when. */
export class DraftPresence1700000000024 implements MigrationInterface {
  async up(runner: QueryRunner): Promise<void> {
    await runner.query(`
      create table draft_presence (
        process_id uuid not null references processes, person_id uuid not null references people, seen_at timestamptz not null,
        primary key (process_id, person_id)
      );
    `);
  }

  async down(runner: QueryRunner): Promise<void> {
    await runner.query('drop table draft_presence');
  }
}
