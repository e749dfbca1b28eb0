import { EntitySchema } from 'typeorm';

export interface SessionRow {
  tokenHash: Buffer;
  personId: string;
  csrf: string;
  createdAt: Date;
  usedAt: Date;
  expiresAt: Date;
}

export const SessionEntity = new EntitySchema<SessionRow>({
  name: 'session',
  tableName: 'sessions',
  columns: {
    tokenHash: { type: 'bytea', name: 'token_hash', primary: true },
    personId: { type: 'uuid', name: 'person_id' },
    csrf: { type: 'text' },
    createdAt: { type: 'timestamptz', name: 'created_at' },
    usedAt: { type: 'timestamptz', name: 'used_at' },
    expiresAt: { type: 'timestamptz', name: 'expires_at' },
  },
});
