import type { MigrationInterface, QueryRunner } from 'typeorm';

/** Sign-ins are counted as they are tried, sessions end when they are not used; who may see a customer is found by all its deals. */
export class SessionsAndAccess1700000000003 implements MigrationInterface {
  async up(runner: QueryRunner): Promise<void> {
    await runner.query(`
      drop table sign_in_failures;
      create table sign_in_tries (
        scope text collate "C" not null check (scope in ('email', 'address')), name text collate "C" not null,
        began_at timestamptz not null, tries integer not null, primary key (scope, name)
      );
      create index sign_in_tries_by_age on sign_in_tries (began_at);
      alter table sessions add column used_at timestamptz;
      update sessions set used_at = created_at;
      alter table sessions alter column used_at set not null;
      create index sessions_by_person on sessions (person_id);
      create index deals_of_customer on deals (customer_id) where customer_id is not null;
      create index deals_of_contact on deals (contact_id) where contact_id is not null;
      drop index deals_by_customer;
      drop index deals_by_contact;
      alter table imports drop constraint imports_state_check;
      alter table imports add constraint imports_state_check check (state in ('uploaded', 'running', 'done', 'failed', 'taking_back', 'taken_back'));
      alter table imports add column taking_back_by uuid references people, add column taken_back integer not null default 0;
      create index imports_at_work on imports (id) where state in ('running', 'taking_back');
    `);
  }

  async down(): Promise<void> {
    throw new Error('This migration cannot be taken back.');
  }
}
