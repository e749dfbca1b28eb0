import type { MigrationInterface, QueryRunner } from 'typeorm';

/** The outbox and its templates. The table of the ground was never written to. */
export class Outbox1700000000021 implements MigrationInterface {
  async up(runner: QueryRunner): Promise<void> {
    await runner.query(`
      drop table outgoing_messages;
      create table message_templates (
        id uuid primary key, name text not null, name_fold text collate "C" not null, process_id uuid references processes, to_who text not null check (to_who in ('owner', 'contact')),
        to_field text, subject text not null, body text not null, withdrawn_at timestamptz
      );
      create unique index message_templates_name on message_templates (name_fold) where withdrawn_at is null;
      create table messages (
        id uuid primary key, place bigint generated always as identity unique, deal_id uuid references deals, person_id uuid references people, template_id uuid references message_templates,
        state text not null check (state in ('to_confirm', 'queued', 'sent', 'failed', 'given_up', 'dropped')),
        to_name text not null, to_address text not null, subject text not null, body text not null, problem text,
        tries integer not null default 0, next_try_at timestamptz, made_at timestamptz not null, made_by uuid references people, confirmed_at timestamptz, confirmed_by uuid references people,
        sent_at timestamptz, noted_at timestamptz, to_make text check (to_make in ('to_confirm', 'at_once')),
        constraint messages_due check ((next_try_at is not null) = (state in ('queued', 'failed')))
      );
      create index messages_due_at on messages (next_try_at) where next_try_at is not null;
      create index messages_to_make on messages (place) where to_make is not null;
      create index messages_to_note on messages (sent_at) where sent_at is not null and noted_at is null and deal_id is not null;
      create index messages_of_deal on messages (deal_id, place) where deal_id is not null;
      create index messages_by_state on messages (state, place);
      alter table settings_log drop constraint settings_log_what_check;
      alter table settings_log add constraint settings_log_what_check check (what in ('account', 'team', 'rate', 'document_kind', 'template'));
      alter table organisation add column mail_fails boolean not null default false;
    `);
  }

  async down(): Promise<void> {
    throw new Error('This migration cannot be taken back: messages would be lost.');
  }
}
