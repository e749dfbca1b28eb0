import { EntitySchema } from 'typeorm';

export interface ImportUpdateRow {
  importId: string;
  dealId: string;
  journalSeq: number;
  seqBefore: number;
}

export const ImportUpdateEntity = new EntitySchema<ImportUpdateRow>({
  name: 'importUpdate',
  tableName: 'import_updates',
  columns: {
    importId: { type: 'uuid', primary: true },
    dealId: { type: 'uuid', primary: true },
    journalSeq: { type: 'integer' },
    seqBefore: { type: 'integer' },
  },
  foreignKeys: [
    { name: 'import_updates_deal_id_fkey', target: 'deal', columnNames: ['dealId'], referencedColumnNames: ['id'] },
    {
      name: 'import_updates_import_id_fkey',
      target: 'import',
      columnNames: ['importId'],
      referencedColumnNames: ['id'],
    },
  ],
});
