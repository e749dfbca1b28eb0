import type { MigrationInterface, QueryRunner } from 'typeorm';

/** The answer under a press's key is kept as a plain text: to check each as JSON took the database longer than packing and writing it. */
export class AnswersAsText1700000000035 implements MigrationInterface {
  async up(runner: QueryRunner): Promise<void> {
    await runner.query(`
      alter table idempotency_keys alter column answer type text using answer::text;
      do $$ begin
        if exists (select from pg_settings where name = 'default_toast_compression' and 'lz4' = any(enumvals)) then
          alter table idempotency_keys alter column answer set compression lz4;
        end if;
      end $$;
    `);
  }

  async down(runner: QueryRunner): Promise<void> {
    await runner.query(`alter table idempotency_keys alter column answer type json using answer::json`);
  }
}
