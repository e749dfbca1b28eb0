import { EntitySchema } from 'typeorm';

export interface IdempotencyKeyRow {
  personId: string;
  key: string;
  requestHash: Buffer;
  status: number | null;
  /** As JSON. */
  answer: string | null;
  createdAt: Date;
}

export const IdempotencyKeyEntity = new EntitySchema<IdempotencyKeyRow>({
  name: 'idempotencyKey',
  tableName: 'idempotency_keys',
  columns: {
    personId: { type: 'uuid', primary: true },
    key: { type: 'text', primary: true, collation: 'C' },
    requestHash: { type: 'bytea' },
    status: { type: 'smallint', nullable: true },
    answer: { type: 'text', nullable: true },
    createdAt: { type: 'timestamptz' },
  },
  foreignKeys: [
    {
      name: 'idempotency_keys_person_id_fkey',
      target: 'person',
      columnNames: ['personId'],
      referencedColumnNames: ['id'],
    },
  ],
  indices: [{ name: 'idempotency_keys_by_age', columns: ['createdAt'] }],
});
