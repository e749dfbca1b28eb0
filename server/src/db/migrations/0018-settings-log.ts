import type { MigrationInterface, QueryRunner } from 'typeorm';

/** What was set for the whole organisation, as it was before and after. */
export class SettingsLog1700000000018 implements MigrationInterface {
  async up(runner: QueryRunner): Promise<void> {
    await runner.query(`
      create table settings_log (
        id bigint generated always as identity primary key, at timestamptz not null, by_id uuid not null references people,
        what text not null check (what in ('account', 'team', 'rate', 'document_kind')), subject text not null, before jsonb, after jsonb
      )`);
  }

  async down(): Promise<void> {
    throw new Error('This migration cannot be taken back: the log would be lost.');
  }
}
