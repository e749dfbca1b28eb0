import { EntitySchema } from 'typeorm';

export interface DocumentKindRow {
  id: string;
  name: string;
  nameFold: string;
  withdrawnAt: Date | null;
}

export const DocumentKindEntity = new EntitySchema<DocumentKindRow>({
  name: 'documentKind',
  tableName: 'document_kinds',
  columns: {
    id: { type: 'uuid', primary: true },
    name: { type: 'text' },
    nameFold: { type: 'text', collation: 'C' },
    withdrawnAt: { type: 'timestamptz', nullable: true },
  },
  uniques: [{ name: 'document_kinds_name_fold_key', columns: ['nameFold'] }],
});
