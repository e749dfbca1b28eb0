import { type DealId, TASK_ENDS, type TaskEnding } from '@ladder/core';
import { EntitySchema } from 'typeorm';
import { oneOf } from './oneOf.ts';

export interface TaskRow {
  dealId: DealId;
  seq: number;
  madeAt: Date;
  endedAt: Date | null;
  dueDay: string;
  inWorkingDays: boolean;
  endedDay: string | null;
  madeBy: string | null;
  endedBy: string | null;
  assigneeId: string | null;
  madeMove: number | null;
  moveSeq: number | null;
  title: string;
  dueTime: string | null;
  how: TaskEnding | null;
  setId: string | null;
  setItem: string | null;
  madeActor: string | null;
  endedActor: string | null;
}

export const TaskEntity = new EntitySchema<TaskRow>({
  name: 'task',
  tableName: 'tasks',
  columns: {
    dealId: { type: 'uuid', primary: true },
    seq: { type: 'integer', primary: true },
    madeAt: { type: 'timestamptz' },
    endedAt: { type: 'timestamptz', nullable: true },
    dueDay: { type: 'date' },
    inWorkingDays: { type: 'boolean', default: false },
    endedDay: { type: 'date', nullable: true },
    madeBy: { type: 'uuid', nullable: true },
    endedBy: { type: 'uuid', nullable: true },
    assigneeId: { type: 'uuid', nullable: true },
    madeMove: { type: 'integer', nullable: true },
    moveSeq: { type: 'integer', nullable: true },
    title: { type: 'text' },
    dueTime: { type: 'text', nullable: true, collation: 'C' },
    how: { type: 'text', nullable: true },
    setId: { type: 'text', nullable: true, collation: 'C' },
    setItem: { type: 'text', nullable: true, collation: 'C' },
    madeActor: { type: 'text', nullable: true, collation: 'C' },
    endedActor: { type: 'text', nullable: true, collation: 'C' },
  },
  checks: [
    oneOf('tasks_how_check', 'how', TASK_ENDS),
    { name: 'tasks_ended', expression: '(num_nonnulls(ended_at, ended_day, how) = ANY (ARRAY[0, 3]))' },
    { name: 'tasks_maker', expression: '(num_nonnulls(made_by, made_actor) = 1)' },
    { name: 'tasks_actor', expression: '(num_nonnulls(ended_by, ended_actor) = num_nonnulls(ended_at))' },
    { name: 'tasks_origin', expression: '(num_nonnulls(set_id, set_item) = ANY (ARRAY[0, 2]))' },
  ],
  foreignKeys: [
    { name: 'tasks_assignee_id_fkey', target: 'person', columnNames: ['assigneeId'], referencedColumnNames: ['id'] },
    { name: 'tasks_deal_id_fkey', target: 'deal', columnNames: ['dealId'], referencedColumnNames: ['id'] },
    { name: 'tasks_ended_by_fkey', target: 'person', columnNames: ['endedBy'], referencedColumnNames: ['id'] },
    { name: 'tasks_made_by_fkey', target: 'person', columnNames: ['madeBy'], referencedColumnNames: ['id'] },
  ],
  indices: [
    { name: 'tasks_counted', columns: ['dueDay'], where: '((ended_at IS NULL) AND in_working_days)' },
    { name: 'tasks_of', columns: ['assigneeId', 'dueDay'], where: '(ended_at IS NULL)' },
    { name: 'tasks_done', columns: ['endedBy', 'endedDay'], where: `(how = 'done'::text)` },
  ],
});
