import { ROLES, type Role } from '@ladder/contract';
import type { NoticeKind } from '@ladder/core';
import { EntitySchema } from 'typeorm';
import { oneOf } from './oneOf.ts';

export interface PersonRow {
  id: string;
  name: string;
  email: string;
  emailFold: string;
  title: string;
  role: Role;
  passwordHash: string;
  active: boolean;
  /** Kinds of notices that are sent as a message too; null where nothing was chosen. */
  mailedKinds: readonly NoticeKind[] | null;
  /** The local day of the last digest. */
  digestDay: string | null;
}

export const PersonEntity = new EntitySchema<PersonRow>({
  name: 'person',
  tableName: 'people',
  columns: {
    id: { type: 'uuid', primary: true },
    name: { type: 'text', collation: 'C' },
    email: { type: 'text' },
    emailFold: { type: 'text', collation: 'C' },
    title: { type: 'text', default: '' },
    role: { type: 'text' },
    passwordHash: { type: 'text' },
    active: { type: 'boolean', default: true },
    mailedKinds: { type: 'jsonb', nullable: true },
    digestDay: { type: 'date', nullable: true },
  },
  uniques: [{ name: 'people_email_fold_key', columns: ['emailFold'] }],
  checks: [oneOf('people_role_check', 'role', ROLES)],
  indices: [{ name: 'people_by_name', columns: ['name', 'id'] }],
});
