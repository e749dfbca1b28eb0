import type { Field } from '@ladder/core';
import { FIELD_HOLDERS, type FieldHolder } from '@ladder/core';
import { EntitySchema } from 'typeorm';
import { oneOf } from './oneOf.ts';

export interface FieldRow {
  id: string;
  holder: FieldHolder;
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
    id: { type: 'text', primary: true, collation: 'C' },
    holder: { type: 'text' },
    type: { type: 'text' },
    name: { type: 'text' },
    nameFold: { type: 'text', collation: 'C' },
    definition: { type: 'jsonb' },
    searchable: { type: 'boolean', default: false },
    firstUsedAt: { type: 'timestamptz', nullable: true },
    place: { type: 'integer' },
  },
  uniques: [{ name: 'fields_holder_name_fold_key', columns: ['holder', 'nameFold'] }],
  checks: [oneOf('fields_holder_check', 'holder', FIELD_HOLDERS)],
});
