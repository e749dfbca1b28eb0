import type { MigrationInterface, QueryRunner } from 'typeorm';

/** Long work with one field, and changes of fields in the log of settings. */
export class FieldsPage1700000000025 implements MigrationInterface {
  async up(runner: QueryRunner): Promise<void> {
    await runner.query(`
      alter table long_work drop constraint long_work_kind_check;
      alter table long_work add constraint long_work_kind_check check (kind in ('import', 'take_back', 'publish', 'house_rules', 'rate', 'leaving', 'choice', 'formula'));
      alter table settings_log drop constraint settings_log_what_check;
      alter table settings_log add constraint settings_log_what_check check (what in ('account', 'team', 'rate', 'document_kind', 'template', 'field'));
    `);
  }

  async down(): Promise<void> {
    throw new Error('This migration cannot be taken back: the log would be lost.');
  }
}
