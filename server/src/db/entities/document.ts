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
  removedBy: string | null;
  seq: number;
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
    removedBy: { type: 'uuid', nullable: true },
    seq: { type: 'integer' },
  },
  foreignKeys: [
    { name: 'documents_added_by_fkey', target: 'person', columnNames: ['addedBy'], referencedColumnNames: ['id'] },
    { name: 'documents_removed_by_fkey', target: 'person', columnNames: ['removedBy'], referencedColumnNames: ['id'] },
    { name: 'documents_deal_id_fkey', target: 'deal', columnNames: ['dealId'], referencedColumnNames: ['id'] },
  ],
  checks: [{ name: 'documents_removed', expression: '(num_nonnulls(removed_at, removed_by) = ANY (ARRAY[0, 2]))' }],
  indices: [{ name: 'documents_by_deal', columns: ['dealId', 'seq'], unique: true }],
});
