import { EntitySchema } from 'typeorm';
import { oneOf } from './oneOf.ts';

const SCOPES = ['email', 'address'] as const;

export interface SignInTryRow {
  scope: (typeof SCOPES)[number];
  name: string;
  beganAt: Date;
  tries: number;
}

export const SignInTryEntity = new EntitySchema<SignInTryRow>({
  name: 'signInTry',
  tableName: 'sign_in_tries',
  columns: {
    scope: { type: 'text', primary: true, collation: 'C' },
    name: { type: 'text', primary: true, collation: 'C' },
    beganAt: { type: 'timestamptz' },
    tries: { type: 'integer' },
  },
  checks: [oneOf('sign_in_tries_scope_check', 'scope', SCOPES)],
  indices: [{ name: 'sign_in_tries_by_age', columns: ['beganAt'] }],
});
