import type { MigrationInterface, QueryRunner } from 'typeorm';

/** A chain over the whole journal: numbered checkpoints of the heads that changed since the one before; texts are erased by one function. */
export class JournalCheckpoints1700000000004 implements MigrationInterface {
  async up(runner: QueryRunner): Promise<void> {
    await runner.query(`
      create table journal_checkpoints (
        number integer primary key, at timestamptz not null, entries bigint not null, previous bytea not null, digest bytea not null
      );
      create table journal_checkpoint_heads (
        number integer not null references journal_checkpoints, deal_id uuid not null, journal_count integer not null, journal_hash bytea not null,
        primary key (number, deal_id)
      );
      create index journal_checkpoint_heads_by_deal on journal_checkpoint_heads (deal_id, number);
      alter table deal_heads add column checked_count integer not null default 0;
      create index deal_heads_unchecked on deal_heads (deal_id) where journal_count <> checked_count;
      create function erase_journal_text(deal uuid, entry integer) returns boolean language plpgsql security definer set search_path = public, pg_temp as $$
      begin
        if not exists (select from journal where deal_id = deal and kind = 'text_erased' and (body->>'seq')::integer = entry) then
          raise exception 'An erasure is journalled before it is done' using errcode = 'restrict_violation';
        end if;
        update journal_texts set text = null, salt = '' where id = (select text_id from journal where deal_id = deal and seq = entry) and text is not null;
        return found;
      end $$;
    `);
  }

  async down(): Promise<void> {
    throw new Error('This migration cannot be taken back: the checkpoints would be lost.');
  }
}
