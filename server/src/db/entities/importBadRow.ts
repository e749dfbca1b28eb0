import { EntitySchema } from 'typeorm';

export interface ImportBadRowRow {
  importId: string;
  line: number;
  cells: unknown;
  reason: string;
}

export const ImportBadRowEntity = new EntitySchema<ImportBadRowRow>({
  name: 'importBadRow',
  tableName: 'import_bad_rows',
  columns: {
    importId: { type: 'uuid', primary: true },
    line: { type: 'integer', primary: true },
    cells: { type: 'jsonb' },
    reason: { type: 'text' },
  },
  foreignKeys: [
    {
      name: 'import_bad_rows_import_id_fkey',
      target: 'import',
      columnNames: ['importId'],
      referencedColumnNames: ['id'],
    },
  ],
});
