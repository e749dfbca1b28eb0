import { EntitySchema } from 'typeorm';

export interface DueWorkRow {
  id: string;
  kind: string;
  dealId: string | null;
  dueAt: Date;
  doneAt: Date | null;
  detail: unknown;
}

export const DueWorkEntity = new EntitySchema<DueWorkRow>({
  name: 'dueWork',
  tableName: 'due_work',
  columns: {
    id: { type: 'uuid', primary: true },
    kind: { type: 'text' },
    dealId: { type: 'uuid', nullable: true },
    dueAt: { type: 'timestamptz' },
    doneAt: { type: 'timestamptz', nullable: true },
    detail: { type: 'jsonb' },
  },
  foreignKeys: [
    { name: 'due_work_deal_id_fkey', target: 'deal', columnNames: ['dealId'], referencedColumnNames: ['id'] },
  ],
  indices: [{ name: 'due_work_by_time', columns: ['dueAt'], where: '(done_at IS NULL)' }],
});
