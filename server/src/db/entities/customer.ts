import type { Values } from '@ladder/core';
import { EntitySchema } from 'typeorm';

export interface CustomerRow {
  id: string;
  name: string;
  nameFold: string;
  values: Values;
  importId: string | null;
  withdrawnAt: Date | null;
}

export const CustomerEntity = new EntitySchema<CustomerRow>({
  name: 'customer',
  tableName: 'customers',
  columns: {
    id: { type: 'uuid', primary: true },
    name: { type: 'text', collation: 'C' },
    nameFold: { type: 'text', collation: 'C' },
    values: { type: 'jsonb', default: () => "'{}'" },
    importId: { type: 'uuid', nullable: true },
    withdrawnAt: { type: 'timestamptz', nullable: true },
  },
  indices: [
    { name: 'customers_by_import', columns: ['importId'], where: '(import_id IS NOT NULL)' },
    { name: 'customers_by_name', columns: ['nameFold', 'id'] },
    { name: 'customers_by_words', columns: ['nameFold'], synchronize: false },
  ],
});
