import type { Role } from '@ladder/contract';
import { EntitySchema } from 'typeorm';

export interface PersonRow {
  id: string;
  name: string;
  email: string;
  emailFold: string;
  title: string;
  role: Role;
  passwordHash: string;
  active: boolean;
}

export const PersonEntity = new EntitySchema<PersonRow>({
  name: 'person',
  tableName: 'people',
  columns: {
    id: { type: 'uuid', primary: true },
    name: { type: 'text' },
    email: { type: 'text' },
    emailFold: { type: 'text', name: 'email_fold' },
    title: { type: 'text' },
    role: { type: 'text' },
    passwordHash: { type: 'text', name: 'password_hash' },
    active: { type: 'boolean' },
  },
});
