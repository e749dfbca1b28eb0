import type { ActivityCounts } from '@ladder/core';
import { EntitySchema } from 'typeorm';

export interface VisitRow {
  dealId: string;
  seq: number;
  stageId: string;
  enteredAt: Date;
  enteredDay: string;
  leftAt: Date | null;
  leftDay: string | null;
  moveOnDay: string | null;
  inWorkingDays: boolean;
  moveSeq: number;
  takenBack: boolean;
  activityCounts: ActivityCounts;
}

export const VisitEntity = new EntitySchema<VisitRow>({
  name: 'visit',
  tableName: 'visits',
  columns: {
    dealId: { type: 'uuid', primary: true },
    seq: { type: 'integer', primary: true },
    stageId: { type: 'text', collation: 'C' },
    enteredAt: { type: 'timestamptz' },
    enteredDay: { type: 'date' },
    leftAt: { type: 'timestamptz', nullable: true },
    leftDay: { type: 'date', nullable: true },
    moveOnDay: { type: 'date', nullable: true },
    inWorkingDays: { type: 'boolean', default: false },
    moveSeq: { type: 'integer' },
    takenBack: { type: 'boolean', default: false },
    activityCounts: { type: 'jsonb' },
  },
  foreignKeys: [
    { name: 'visits_deal_id_fkey', target: 'deal', columnNames: ['dealId'], referencedColumnNames: ['id'] },
  ],
  indices: [
    {
      name: 'visits_counted',
      columns: ['moveOnDay'],
      where: '((left_at IS NULL) AND (NOT taken_back) AND in_working_days)',
    },
    { name: 'visits_one_open', columns: ['dealId'], unique: true, where: '((left_at IS NULL) AND (NOT taken_back))' },
  ],
});
