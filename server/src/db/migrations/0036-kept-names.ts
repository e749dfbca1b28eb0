import type { MigrationInterface, QueryRunner } from 'typeorm';

const TABLES = ['people', 'teams', 'document_kinds'];

/** Servers keep names with what they keep of a deal: who gives another name to what has one touches what all settings have in common. */
export class KeptNames1700000000036 implements MigrationInterface {
  async up(runner: QueryRunner): Promise<void> {
    await runner.query(`
      create function touch_organisation() returns trigger language plpgsql as $$
      begin
        update organisation set currency = currency;
        return null;
      end $$;
    `);
    for (const table of TABLES)
      await runner.query(
        `create trigger names_changed after update of name or delete on ${table} for each statement execute function touch_organisation()`,
      );
  }

  async down(runner: QueryRunner): Promise<void> {
    for (const table of TABLES) await runner.query(`drop trigger names_changed on ${table}`);
    await runner.query('drop function touch_organisation()');
  }
}
