import type { MigrationInterface, QueryRunner } from 'typeorm';

/**
 * Answers are kept under their key as they are sent: nobody looks into them, and taking them apart cost each press. They are
 * compressed quickly where PostgreSQL was built to.
 */
export class KeptAnswers1700000000029 implements MigrationInterface {
  async up(runner: QueryRunner): Promise<void> {
    await runner.query(`
      alter table idempotency_keys alter column answer type json using answer::json;
      do $$ begin
        if exists (select from pg_settings where name = 'default_toast_compression' and 'lz4' = any(enumvals)) then
          alter table idempotency_keys alter column answer set compression lz4;
        end if;
      end $$;
    `);
  }

  async down(runner: QueryRunner): Promise<void> {
    await runner.query('alter table idempotency_keys alter column answer type jsonb using answer::jsonb');
  }
}
