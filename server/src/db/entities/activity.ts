import { EntitySchema } from 'typeorm';

export interface ActivityRow {
  id: string;
  dealId: string;
  kind: string;
  happenedAt: Date;
  recordedAt: Date;
  byId: string | null;
  previousAt: Date | null;
  journalSeq: number | null;
  byActor: string | null;
}

export const ActivityEntity = new EntitySchema<ActivityRow>({
  name: 'activity',
  tableName: 'activities',
  columns: {
    id: { type: 'uuid', primary: true },
    dealId: { type: 'uuid' },
    kind: { type: 'text' },
    happenedAt: { type: 'timestamptz' },
    recordedAt: { type: 'timestamptz' },
    byId: { type: 'uuid', nullable: true },
    previousAt: { type: 'timestamptz', nullable: true },
    journalSeq: { type: 'integer', nullable: true },
    byActor: { type: 'text', nullable: true, collation: 'C' },
  },
  checks: [{ name: 'activities_actor', expression: '(num_nonnulls(by_id, by_actor) = 1)' }],
  foreignKeys: [
    { name: 'activities_by_id_fkey', target: 'person', columnNames: ['byId'], referencedColumnNames: ['id'] },
    { name: 'activities_deal_id_fkey', target: 'deal', columnNames: ['dealId'], referencedColumnNames: ['id'] },
  ],
  indices: [{ name: 'activities_by_deal', columns: ['dealId', 'happenedAt'] }],
});
