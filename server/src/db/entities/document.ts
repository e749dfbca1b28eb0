import { EntitySchema } from 'typeorm';

export interface DocumentRow {
  id: string;
  dealId: string;
  kind: string;
  name: string;
  mediaType: string;
  bytes: string;
  digest: Buffer;
  addedAt: Date;
  addedBy: string;
  removedAt: Date | null;
}

export const DocumentEntity = new EntitySchema<DocumentRow>({
  name: 'document',
  tableName: 'documents',
  columns: {
    id: { type: 'uuid', primary: true },
    dealId: { type: 'uuid' },
    kind: { type: 'text', collation: 'C' },
    name: { type: 'text' },
    mediaType: { type: 'text' },
    bytes: { type: 'bigint' },
    digest: { type: 'bytea' },
    addedAt: { type: 'timestamptz' },
    addedBy: { type: 'uuid' },
    removedAt: { type: 'timestamptz', nullable: true },
  },
  foreignKeys: [
    { name: 'documents_added_by_fkey', target: 'person', columnNames: ['addedBy'], referencedColumnNames: ['id'] },
    { name: 'documents_deal_id_fkey', target: 'deal', columnNames: ['dealId'], referencedColumnNames: ['id'] },
  ],
  indices: [{ name: 'documents_by_deal', columns: ['dealId', 'kind'] }],
});
