import type { MigrationInterface, QueryRunner } from 'typeorm';

/** Each person's calendar feed, by the hash of its secret address. */
export class CalendarFeeds1700000000014 implements MigrationInterface {
  async up(runner: QueryRunner): Promise<void> {
    await runner.query(`
      create table calendar_feeds (
        person_id uuid primary key references people, secret_hash bytea not null unique, made_at timestamptz not null, read_at timestamptz
      )`);
  }

  async down(runner: QueryRunner): Promise<void> {
    await runner.query('drop table calendar_feeds');
  }
}
