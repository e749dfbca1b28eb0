import { EntitySchema } from 'typeorm';

export interface JournalTextRow {
  id: string;
  dealId: string;
  salt: Buffer;
  text: string | null;
}

export const JournalTextEntity = new EntitySchema<JournalTextRow>({
  name: 'journalText',
  tableName: 'journal_texts',
  columns: {
    id: { type: 'uuid', primary: true },
    dealId: { type: 'uuid' },
    salt: {
      type: 'bytea',
      default: () => "decode(replace((gen_random_uuid()), '-', ''), 'hex')",
    },
    text: { type: 'text', nullable: true },
  },
  foreignKeys: [
    { name: 'journal_texts_deal_id_fkey', target: 'deal', columnNames: ['dealId'], referencedColumnNames: ['id'] },
  ],
  indices: [{ name: 'journal_texts_by_deal', columns: ['dealId'] }],
});
