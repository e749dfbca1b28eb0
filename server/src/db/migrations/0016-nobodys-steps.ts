import type { MigrationInterface, QueryRunner } from 'typeorm';

/** A person's day finds the steps that nobody has taken yet without going through everybody's. */
export class NobodysSteps1700000000016 implements MigrationInterface {
  async up(runner: QueryRunner): Promise<void> {
    await runner.query(`
      create index step_runs_nobodys on step_runs (stage_id, step)
        where assignee_id is null and ended_at is null and not taken_back;
    `);
  }

  async down(runner: QueryRunner): Promise<void> {
    await runner.query('drop index step_runs_nobodys');
  }
}
