import type { MigrationInterface, QueryRunner } from 'typeorm';

/** People who are away, with who sees to their day meanwhile; and those who leave, emptied as a long work. */
export class Absences1700000000019 implements MigrationInterface {
  async up(runner: QueryRunner): Promise<void> {
    await runner.query(`
      create table absences (
        person_id uuid primary key references people, from_day date not null, to_day date not null, substitute_id uuid not null references people,
        constraint absences_days check (from_day <= to_day), constraint absences_other check (person_id <> substitute_id)
      );
      create index absences_by_substitute on absences (substitute_id);
      alter table long_work drop constraint long_work_kind_check;
      alter table long_work add constraint long_work_kind_check check (kind in ('import', 'take_back', 'publish', 'house_rules', 'rate', 'leaving'));
    `);
  }

  async down(): Promise<void> {
    throw new Error('This migration cannot be taken back: absences would be lost.');
  }
}
