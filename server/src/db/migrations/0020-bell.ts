import type { MigrationInterface, QueryRunner } from 'typeorm';

/** Who watches which deal, what the bell tells whom, what of it is sent as a message too, and the note of a publish. */
export class Bell1700000000020 implements MigrationInterface {
  async up(runner: QueryRunner): Promise<void> {
    await runner.query(`
      create table watchers (deal_id uuid not null references deals, person_id uuid not null references people, primary key (deal_id, person_id));
      create index watchers_of_person on watchers (person_id);
      create table notices (
        id bigint generated always as identity primary key, person_id uuid not null references people,
        kind text not null check (kind in ('mentioned', 'assigned', 'waiver_asked', 'waiver_decided', 'watched', 'published')),
        deal_id uuid references deals, version_id uuid references process_versions, about text collate "C" not null, event text, by_id uuid references people,
        times integer not null default 1, at timestamptz not null, read_at timestamptz, mailed_at timestamptz,
        constraint notices_of check (num_nonnulls(deal_id, version_id) = 1)
      );
      create unique index notices_once on notices (person_id, about) where read_at is null;
      create index notices_of_person on notices (person_id, at, id);
      create index notices_unsent on notices (person_id) where read_at is null and mailed_at is null;
      create index notices_read on notices (read_at) where read_at is not null;
      create index notices_of_deal on notices (deal_id) where deal_id is not null;
      alter table people add column mailed_kinds jsonb, add column digest_day date;
      alter table process_versions add column note text;
    `);
  }

  async down(): Promise<void> {
    throw new Error('This migration cannot be taken back: notices would be lost.');
  }
}
