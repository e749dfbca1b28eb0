import type { MigrationInterface, QueryRunner } from 'typeorm';

/** To whom the last new deal of a process went that is handed out in turn: apart from the process, which every setting is read with. */
export class AccessAndTurns1700000000027 implements MigrationInterface {
  async up(runner: QueryRunner): Promise<void> {
    await runner.query(`
      create table assignment_turns (process_id uuid primary key references processes, person_id uuid references people);
    `);
  }

  async down(runner: QueryRunner): Promise<void> {
    await runner.query('drop table assignment_turns');
  }
}
