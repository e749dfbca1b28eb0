import { EntitySchema } from 'typeorm';

export interface JournalCheckpointHeadRow {
  number: number;
  dealId: string;
  journalCount: number;
  journalHash: Buffer;
}

export const JournalCheckpointHeadEntity = new EntitySchema<JournalCheckpointHeadRow>({
  name: 'journalCheckpointHead',
  tableName: 'journal_checkpoint_heads',
  columns: {
    number: { type: 'integer', primary: true },
    dealId: { type: 'uuid', primary: true },
    journalCount: { type: 'integer' },
    journalHash: { type: 'bytea' },
  },
  foreignKeys: [
    {
      name: 'journal_checkpoint_heads_number_fkey',
      target: 'journalCheckpoint',
      columnNames: ['number'],
      referencedColumnNames: ['number'],
    },
  ],
  indices: [{ name: 'journal_checkpoint_heads_by_deal', columns: ['dealId', 'number'] }],
});
