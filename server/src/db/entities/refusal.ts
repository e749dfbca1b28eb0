import { EntitySchema } from 'typeorm';

export interface RefusalRow {
  dealId: string;
  fromStage: string;
  target: string;
  day: string;
  firstAt: Date;
  lastAt: Date;
  byId: string | null;
  verdict: unknown;
  snapshot: unknown;
  byActor: string | null;
}

export const RefusalEntity = new EntitySchema<RefusalRow>({
  name: 'refusal',
  tableName: 'refusals',
  columns: {
    dealId: { type: 'uuid', primary: true },
    fromStage: { type: 'text', primary: true, collation: 'C' },
    target: { type: 'text', primary: true, collation: 'C' },
    day: { type: 'date', primary: true },
    firstAt: { type: 'timestamptz' },
    lastAt: { type: 'timestamptz' },
    byId: { type: 'uuid', nullable: true },
    verdict: { type: 'jsonb' },
    snapshot: { type: 'jsonb' },
    byActor: { type: 'text', nullable: true, collation: 'C' },
  },
  checks: [{ name: 'refusals_actor', expression: '(num_nonnulls(by_id, by_actor) = 1)' }],
  foreignKeys: [
    { name: 'refusals_by_id_fkey', target: 'person', columnNames: ['byId'], referencedColumnNames: ['id'] },
    { name: 'refusals_deal_id_fkey', target: 'deal', columnNames: ['dealId'], referencedColumnNames: ['id'] },
  ],
});
