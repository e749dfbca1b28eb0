import { EntitySchema } from 'typeorm';

export interface StepRunRow {
  dealId: string;
  step: string;
  visitSeq: number;
  run: number;
  state: string;
  assigneeId: string | null;
  dueDay: string | null;
  startedAt: Date;
  doneAt: Date | null;
  doneBy: string | null;
  result: string | null;
  captured: unknown;
}

export const StepRunEntity = new EntitySchema<StepRunRow>({
  name: 'stepRun',
  tableName: 'step_runs',
  columns: {
    dealId: { type: 'uuid', primary: true },
    step: { type: 'text', primary: true, collation: 'C' },
    visitSeq: { type: 'integer', primary: true },
    run: { type: 'integer', primary: true },
    state: { type: 'text' },
    assigneeId: { type: 'uuid', nullable: true },
    dueDay: { type: 'date', nullable: true },
    startedAt: { type: 'timestamptz' },
    doneAt: { type: 'timestamptz', nullable: true },
    doneBy: { type: 'uuid', nullable: true },
    result: { type: 'text', nullable: true },
    captured: { type: 'jsonb', default: () => "'{}'" },
  },
  foreignKeys: [
    {
      name: 'step_runs_assignee_id_fkey',
      target: 'person',
      columnNames: ['assigneeId'],
      referencedColumnNames: ['id'],
    },
    { name: 'step_runs_deal_id_fkey', target: 'deal', columnNames: ['dealId'], referencedColumnNames: ['id'] },
    { name: 'step_runs_done_by_fkey', target: 'person', columnNames: ['doneBy'], referencedColumnNames: ['id'] },
  ],
});
