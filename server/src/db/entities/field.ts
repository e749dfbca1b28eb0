import type { Field } from '@ladder/core';
import { EntitySchema } from 'typeorm';

export interface FieldRow {
  id: string;
  holder: string;
  type: string;
  name: string;
  nameFold: string;
  definition: Field;
  searchable: boolean;
  firstUsedAt: Date | null;
  place: number;
}

export const FieldEntity = new EntitySchema<FieldRow>({
  name: 'field',
  tableName: 'fields',
  columns: {
    id: { type: 'text', primary: true },
    holder: { type: 'text' },
    type: { type: 'text' },
    name: { type: 'text' },
    nameFold: { type: 'text', name: 'name_fold' },
    definition: { type: 'jsonb' },
    searchable: { type: 'boolean' },
    firstUsedAt: { type: 'timestamptz', name: 'first_used_at', nullable: true },
    place: { type: 'integer' },
  },
});
