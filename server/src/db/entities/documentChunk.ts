import { EntitySchema } from 'typeorm';

export interface DocumentChunkRow {
  documentId: string;
  place: number;
  content: Buffer;
}

export const DocumentChunkEntity = new EntitySchema<DocumentChunkRow>({
  name: 'documentChunk',
  tableName: 'document_chunks',
  columns: {
    documentId: { type: 'uuid', primary: true },
    place: { type: 'integer', primary: true },
    content: { type: 'bytea' },
  },
  foreignKeys: [
    {
      name: 'document_chunks_document_id_fkey',
      target: 'document',
      columnNames: ['documentId'],
      referencedColumnNames: ['id'],
      deferrable: 'INITIALLY DEFERRED',
    },
  ],
});
