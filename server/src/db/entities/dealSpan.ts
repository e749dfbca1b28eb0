import { EntitySchema } from 'typeorm';

export interface DealSpanRow {
  dealId: string;
  aspect: string;
  value: unknown;
  fromAt: Date;
  toAt: Date | null;
}

export const DealSpanEntity = new EntitySchema<DealSpanRow>({
  name: 'dealSpan',
  tableName: 'deal_spans',
  columns: {
    dealId: { type: 'uuid', primary: true },
    aspect: { type: 'text', primary: true },
    value: { type: 'jsonb' },
    fromAt: { type: 'timestamptz', primary: true },
    toAt: { type: 'timestamptz', nullable: true },
  },
  foreignKeys: [
    { name: 'deal_spans_deal_id_fkey', target: 'deal', columnNames: ['dealId'], referencedColumnNames: ['id'] },
  ],
  indices: [{ name: 'deal_spans_one_open', columns: ['dealId', 'aspect'], unique: true, where: '(to_at IS NULL)' }],
});
