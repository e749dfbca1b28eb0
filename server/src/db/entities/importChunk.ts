import { EntitySchema } from 'typeorm';

export interface ImportChunkRow {
  importId: string;
  place: number;
  content: Buffer;
}

export const ImportChunkEntity = new EntitySchema<ImportChunkRow>({
  name: 'importChunk',
  tableName: 'import_chunks',
  columns: {
    importId: { type: 'uuid', primary: true },
    place: { type: 'integer', primary: true },
    content: { type: 'bytea' },
  },
  foreignKeys: [
    {
      name: 'import_chunks_import_id_fkey',
      target: 'import',
      columnNames: ['importId'],
      referencedColumnNames: ['id'],
    },
  ],
});
