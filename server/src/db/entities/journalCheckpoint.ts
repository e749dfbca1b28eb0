import { EntitySchema } from 'typeorm';

export interface JournalCheckpointRow {
  number: number;
  at: Date;
  entries: string;
  previous: Buffer;
  digest: Buffer;
}

export const JournalCheckpointEntity = new EntitySchema<JournalCheckpointRow>({
  name: 'journalCheckpoint',
  tableName: 'journal_checkpoints',
  columns: {
    number: { type: 'integer', primary: true },
    at: { type: 'timestamptz' },
    entries: { type: 'bigint' },
    previous: { type: 'bytea' },
    digest: { type: 'bytea' },
  },
});
