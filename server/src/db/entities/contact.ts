import type { Values } from '@ladder/core';
import { EntitySchema } from 'typeorm';

export interface ContactRow {
  id: string;
  customerId: string | null;
  name: string;
  nameFold: string;
  values: Values;
  importId: string | null;
  withdrawnAt: Date | null;
}

export const ContactEntity = new EntitySchema<ContactRow>({
  name: 'contact',
  tableName: 'contacts',
  columns: {
    id: { type: 'uuid', primary: true },
    customerId: { type: 'uuid', nullable: true },
    name: { type: 'text', collation: 'C' },
    nameFold: { type: 'text', collation: 'C' },
    values: { type: 'jsonb', default: () => "'{}'" },
    importId: { type: 'uuid', nullable: true },
    withdrawnAt: { type: 'timestamptz', nullable: true },
  },
  foreignKeys: [
    {
      name: 'contacts_customer_id_fkey',
      target: 'customer',
      columnNames: ['customerId'],
      referencedColumnNames: ['id'],
    },
  ],
  indices: [
    { name: 'contacts_by_customer', columns: ['customerId'] },
    { name: 'contacts_by_import', columns: ['importId'], where: '(import_id IS NOT NULL)' },
    { name: 'contacts_by_name', columns: ['nameFold', 'id'] },
  ],
});
