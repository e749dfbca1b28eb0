import type { MigrationInterface, QueryRunner } from 'typeorm';

/** Waivers as they are asked for and decided, a row for each requirement. The table of the ground was never written to. */
export class Waivers1700000000015 implements MigrationInterface {
  async up(runner: QueryRunner): Promise<void> {
    await runner.query('drop table waivers');
    await runner.query(TABLE);
  }

  async down(): Promise<void> {
    throw new Error('This migration cannot be taken back: waivers would be lost.');
  }
}

const TABLE = `
create table waivers (
  deal_id uuid not null references deals, seq integer not null, request integer not null, visit_seq integer not null, asked_at timestamptz not null,
  decided_at timestamptz, from_at timestamptz, to_at timestamptz, ended_at timestamptz, asked_by uuid references people, decided_by uuid references people,
  ended_by uuid references people, until_day date not null, granted_until date, end_move integer,
  requirement text collate "C" not null, substance text not null, target text collate "C" not null, why text not null,
  how text check (how in ('granted', 'refused', 'withdrawn', 'lapsed')), word text, end_how text check (end_how in ('revoked', 'changed', 'returned', 'closed')),
  end_word text, asked_actor text collate "C", decided_actor text collate "C", ended_actor text collate "C", verdict jsonb not null,
  primary key (deal_id, seq),
  constraint waivers_asker check (num_nonnulls(asked_by, asked_actor) = 1),
  constraint waivers_decided check (num_nonnulls(decided_at, how) in (0, 2) and num_nonnulls(decided_by, decided_actor) = num_nonnulls(decided_at)),
  constraint waivers_ended check (num_nonnulls(ended_at, end_how) in (0, 2) and num_nonnulls(ended_by, ended_actor) = num_nonnulls(ended_at)),
  constraint waivers_covers check (num_nonnulls(from_at, to_at) in (0, 2) and from_at <= to_at)
);
create unique index waivers_open on waivers (deal_id, requirement) where decided_at is null;
create index waivers_of_requirement on waivers (requirement, asked_at);
`;
