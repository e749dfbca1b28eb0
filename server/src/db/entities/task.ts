import { EntitySchema } from 'typeorm';

export interface TaskRow {
  id: string;
  dealId: string;
  title: string;
  assigneeId: string | null;
  dueDay: string | null;
  state: string;
  createdAt: Date;
  doneAt: Date | null;
  step: string | null;
}

export const TaskEntity = new EntitySchema<TaskRow>({
  name: 'task',
  tableName: 'tasks',
  columns: {
    id: { type: 'uuid', primary: true },
    dealId: { type: 'uuid' },
    title: { type: 'text' },
    assigneeId: { type: 'uuid', nullable: true },
    dueDay: { type: 'date', nullable: true },
    state: { type: 'text' },
    createdAt: { type: 'timestamptz' },
    doneAt: { type: 'timestamptz', nullable: true },
    step: { type: 'text', nullable: true },
  },
  foreignKeys: [
    { name: 'tasks_assignee_id_fkey', target: 'person', columnNames: ['assigneeId'], referencedColumnNames: ['id'] },
    { name: 'tasks_deal_id_fkey', target: 'deal', columnNames: ['dealId'], referencedColumnNames: ['id'] },
  ],
  indices: [
    { name: 'tasks_by_assignee', columns: ['assigneeId', 'state', 'dueDay'] },
    { name: 'tasks_by_deal', columns: ['dealId', 'state'] },
  ],
});
