import { EntitySchema } from 'typeorm';

export interface SessionRow {
  tokenHash: Buffer;
  personId: string;
  csrf: string;
  createdAt: Date;
  expiresAt: Date;
  usedAt: Date;
}

export const SessionEntity = new EntitySchema<SessionRow>({
  name: 'session',
  tableName: 'sessions',
  columns: {
    tokenHash: { type: 'bytea', primary: true },
    personId: { type: 'uuid' },
    csrf: { type: 'text' },
    createdAt: { type: 'timestamptz' },
    expiresAt: { type: 'timestamptz' },
    usedAt: { type: 'timestamptz' },
  },
  foreignKeys: [
    { name: 'sessions_person_id_fkey', target: 'person', columnNames: ['personId'], referencedColumnNames: ['id'] },
  ],
  indices: [
    { name: 'sessions_by_expiry', columns: ['expiresAt'] },
    { name: 'sessions_by_person', columns: ['personId'] },
  ],
});
