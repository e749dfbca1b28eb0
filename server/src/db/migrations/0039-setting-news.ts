import type { MigrationInterface, QueryRunner } from 'typeorm';

/** Whatever a setting is read from touches one of these rows (`touchProcess`, `touchOrganisation`). */
const TABLES = ['processes', 'calendars', 'organisation'];

/** Servers are told when something was changed that settings are read from, and read them again before they are asked for. */
export class SettingNews1700000000039 implements MigrationInterface {
  async up(runner: QueryRunner): Promise<void> {
    await runner.query(`
      create function tell_settings() returns trigger language plpgsql as $$
      begin
        perform pg_notify('settings', '');
        return null;
      end $$;
    `);
    for (const table of TABLES)
      await runner.query(
        `create trigger settings_changed after update on ${table} for each statement execute function tell_settings()`,
      );
  }

  async down(runner: QueryRunner): Promise<void> {
    for (const table of TABLES) await runner.query(`drop trigger settings_changed on ${table}`);
    await runner.query('drop function tell_settings()');
  }
}
