import type { Values } from '@ladder/core';
import { EntitySchema } from 'typeorm';

export interface CustomerRow {
  id: string;
  name: string;
  nameFold: string;
  values: Values;
}

export const CustomerEntity = new EntitySchema<CustomerRow>({
  name: 'customer',
  tableName: 'customers',
  columns: {
    id: { type: 'uuid', primary: true },
    name: { type: 'text' },
    nameFold: { type: 'text', name: 'name_fold' },
    values: { type: 'jsonb' },
  },
});
