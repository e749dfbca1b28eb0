import type { MigrationInterface, QueryRunner } from 'typeorm';

/** Kinds of documents, documents with who removed them, and how often each thing was done in a stay. */
export class Documents1700000000011 implements MigrationInterface {
  async up(runner: QueryRunner): Promise<void> {
    await runner.query(DOCUMENTS);
    await runner.query(STAYS);
  }

  async down(): Promise<void> {
    throw new Error('This migration cannot be taken back: documents would be lost.');
  }
}

/* Chunks are written before the document that they are of, so that its deal is locked no longer than for any other command. */
const DOCUMENTS = `
create table document_kinds (
  id uuid primary key, name text not null, name_fold text collate "C" not null unique, withdrawn_at timestamptz
);
alter table documents add column removed_by uuid references people, add column seq integer not null,
  add constraint documents_removed check (num_nonnulls(removed_at, removed_by) in (0, 2));
drop index documents_by_deal;
create unique index documents_by_deal on documents (deal_id, seq);
alter table document_chunks alter constraint document_chunks_document_id_fkey deferrable initially deferred;
`;

const STAYS = `
alter table visits add column activity_counts jsonb not null default '{"note": 0, "call": 0, "message": 0, "meeting": 0, "visit": 0}';
alter table visits alter column activity_counts drop default;
update visits v set activity_counts = v.activity_counts || c.counts from (
  select deal_id, seq, jsonb_object_agg(kind, times) as counts from (
    select s.deal_id, s.seq, a.kind, count(*) as times from visits s
    join activities a on a.deal_id = s.deal_id and a.happened_at >= s.entered_at and (s.left_at is null or a.happened_at < s.left_at)
    where not s.taken_back group by s.deal_id, s.seq, a.kind
  ) each group by deal_id, seq
) c where c.deal_id = v.deal_id and c.seq = v.seq;
`;
