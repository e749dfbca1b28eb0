import { EntitySchema } from 'typeorm';

export interface TickRow {
  dealId: string;
  item: string;
  tickedAt: Date;
  tickedBy: string | null;
  visitSeq: number;
  untickedAt: Date | null;
  tickedActor: string | null;
}

export const TickEntity = new EntitySchema<TickRow>({
  name: 'tick',
  tableName: 'ticks',
  columns: {
    dealId: { type: 'uuid', primary: true },
    item: { type: 'text', primary: true, collation: 'C' },
    tickedAt: { type: 'timestamptz', primary: true },
    tickedBy: { type: 'uuid', nullable: true },
    visitSeq: { type: 'integer' },
    untickedAt: { type: 'timestamptz', nullable: true },
    tickedActor: { type: 'text', nullable: true, collation: 'C' },
  },
  checks: [{ name: 'ticks_actor', expression: '(num_nonnulls(ticked_by, ticked_actor) = 1)' }],
  foreignKeys: [
    { name: 'ticks_deal_id_fkey', target: 'deal', columnNames: ['dealId'], referencedColumnNames: ['id'] },
    { name: 'ticks_ticked_by_fkey', target: 'person', columnNames: ['tickedBy'], referencedColumnNames: ['id'] },
  ],
});
