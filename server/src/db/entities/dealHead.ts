import { EntitySchema } from 'typeorm';

export interface DealHeadRow {
  dealId: string;
  revision: number;
  lastActivityAt: Date | null;
  journalCount: number;
  journalHash: Buffer;
  settledAt: Date;
  checkedCount: number;
}

export const DealHeadEntity = new EntitySchema<DealHeadRow>({
  name: 'dealHead',
  tableName: 'deal_heads',
  columns: {
    dealId: { type: 'uuid', primary: true },
    revision: { type: 'integer' },
    lastActivityAt: { type: 'timestamptz', nullable: true },
    journalCount: { type: 'integer', default: 0 },
    journalHash: { type: 'bytea', default: () => "'\\x'" },
    settledAt: { type: 'timestamptz' },
    checkedCount: { type: 'integer', default: 0 },
  },
  foreignKeys: [
    {
      name: 'deal_heads_deal_id_fkey',
      target: 'deal',
      columnNames: ['dealId'],
      referencedColumnNames: ['id'],
      deferrable: 'INITIALLY DEFERRED',
    },
  ],
});
