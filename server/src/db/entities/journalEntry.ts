import { EntitySchema } from 'typeorm';

export interface JournalEntryRow {
  id: string;
  dealId: string;
  seq: number;
  kind: string;
  stageId: string;
  happenedAt: Date;
  recordedAt: Date;
  byId: string | null;
  body: unknown;
  textId: string | null;
  textDigest: Buffer | null;
  previousHash: Buffer;
  hash: Buffer;
  byActor: string | null;
}

export const JournalEntryEntity = new EntitySchema<JournalEntryRow>({
  name: 'journalEntry',
  tableName: 'journal',
  columns: {
    id: { type: 'bigint', primary: true, generated: 'increment' },
    dealId: { type: 'uuid' },
    seq: { type: 'integer' },
    kind: { type: 'text' },
    stageId: { type: 'text', collation: 'C' },
    happenedAt: { type: 'timestamptz' },
    recordedAt: { type: 'timestamptz' },
    byId: { type: 'uuid', nullable: true },
    body: { type: 'jsonb' },
    textId: { type: 'uuid', nullable: true },
    textDigest: { type: 'bytea', nullable: true },
    previousHash: { type: 'bytea' },
    hash: { type: 'bytea' },
    byActor: { type: 'text', nullable: true, collation: 'C' },
  },
  uniques: [{ name: 'journal_deal_id_seq_key', columns: ['dealId', 'seq'] }],
  foreignKeys: [
    { name: 'journal_by_id_fkey', target: 'person', columnNames: ['byId'], referencedColumnNames: ['id'] },
    { name: 'journal_deal_id_fkey', target: 'deal', columnNames: ['dealId'], referencedColumnNames: ['id'] },
    { name: 'journal_text_id_fkey', target: 'journalText', columnNames: ['textId'], referencedColumnNames: ['id'] },
  ],
});
