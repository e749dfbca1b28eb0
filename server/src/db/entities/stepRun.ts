import { RUN_ENDS, type RunEnd, THREAD_ENDS } from '@ladder/core';
import { EntitySchema } from 'typeorm';
import { oneOf } from './oneOf.ts';

export interface StepRunRow {
  dealId: string;
  seq: number;
  visitSeq: number;
  begunDay: string;
  begunAt: Date;
  endedAt: Date | null;
  goesOnAt: Date | null;
  goesOnDays: number | null;
  goesOnResult: string | null;
  did: unknown;
  dueDay: string | null;
  inWorkingDays: boolean;
  endedDay: string | null;
  assigneeId: string | null;
  endedBy: string | null;
  moveSeq: number | null;
  owed: boolean;
  takenBack: boolean;
  stageId: string;
  step: string;
  name: string;
  how: RunEnd['how'] | null;
  thread: RunEnd['thread'] | null;
  result: string | null;
  resultName: string | null;
  endedActor: string | null;
  processId: string;
  ownerId: string | null;
  teamId: string | null;
  counts: boolean;
}

export const StepRunEntity = new EntitySchema<StepRunRow>({
  name: 'stepRun',
  tableName: 'step_runs',
  columns: {
    dealId: { type: 'uuid', primary: true },
    seq: { type: 'integer', primary: true },
    visitSeq: { type: 'integer' },
    begunDay: { type: 'date' },
    begunAt: { type: 'timestamptz' },
    endedAt: { type: 'timestamptz', nullable: true },
    goesOnAt: { type: 'timestamptz', nullable: true },
    goesOnDays: { type: 'integer', nullable: true },
    goesOnResult: { type: 'text', nullable: true, collation: 'C' },
    did: { type: 'jsonb', nullable: true },
    dueDay: { type: 'date', nullable: true },
    inWorkingDays: { type: 'boolean', default: false },
    endedDay: { type: 'date', nullable: true },
    assigneeId: { type: 'uuid', nullable: true },
    endedBy: { type: 'uuid', nullable: true },
    moveSeq: { type: 'integer', nullable: true },
    owed: { type: 'boolean' },
    takenBack: { type: 'boolean' },
    stageId: { type: 'text', collation: 'C' },
    step: { type: 'text', collation: 'C' },
    name: { type: 'text' },
    how: { type: 'text', nullable: true },
    thread: { type: 'text', nullable: true },
    result: { type: 'text', nullable: true, collation: 'C' },
    resultName: { type: 'text', nullable: true },
    endedActor: { type: 'text', nullable: true, collation: 'C' },
    processId: { type: 'uuid' },
    ownerId: { type: 'uuid', nullable: true },
    teamId: { type: 'uuid', nullable: true },
    counts: { type: 'boolean' },
  },
  checks: [
    oneOf('step_runs_how_check', 'how', RUN_ENDS),
    oneOf('step_runs_thread_check', 'thread', THREAD_ENDS),
    {
      name: 'step_runs_ended',
      expression: '(num_nonnulls(ended_at, ended_day, how, thread) = ANY (ARRAY[0, 4]))',
    },
    { name: 'step_runs_actor', expression: '(num_nonnulls(ended_by, ended_actor) = num_nonnulls(ended_at))' },
  ],
  foreignKeys: [
    {
      name: 'step_runs_assignee_id_fkey',
      target: 'person',
      columnNames: ['assigneeId'],
      referencedColumnNames: ['id'],
    },
    { name: 'step_runs_deal_id_fkey', target: 'deal', columnNames: ['dealId'], referencedColumnNames: ['id'] },
    { name: 'step_runs_owner_id_fkey', target: 'person', columnNames: ['ownerId'], referencedColumnNames: ['id'] },
    { name: 'step_runs_team_id_fkey', target: 'team', columnNames: ['teamId'], referencedColumnNames: ['id'] },
    { name: 'step_runs_ended_by_fkey', target: 'person', columnNames: ['endedBy'], referencedColumnNames: ['id'] },
  ],
  indices: [
    {
      name: 'step_runs_one_at_hand',
      columns: ['dealId', 'stageId', 'visitSeq', 'owed'],
      unique: true,
      where: '((ended_at IS NULL) AND (NOT taken_back))',
    },
    {
      name: 'step_runs_counted',
      columns: ['dueDay'],
      where: '((ended_at IS NULL) AND (NOT taken_back) AND in_working_days)',
    },
    {
      name: 'step_runs_of',
      columns: ['assigneeId'],
      where: '((assignee_id IS NOT NULL) AND (ended_at IS NULL) AND (NOT taken_back))',
    },
    {
      name: 'step_runs_nobodys',
      columns: ['stageId', 'step'],
      where: '((assignee_id IS NULL) AND (ended_at IS NULL) AND (NOT taken_back))',
    },
    {
      name: 'step_runs_done_by',
      columns: ['endedBy', 'endedDay'],
      where: `((how = 'result'::text) AND (NOT taken_back))`,
    },
    { name: 'step_runs_measured', synchronize: false },
    { name: 'step_runs_at_hand', synchronize: false },
    { name: 'step_runs_by_due', synchronize: false },
    {
      name: 'step_runs_due',
      columns: ['goesOnAt'],
      where: '((goes_on_at IS NOT NULL) AND (ended_at IS NULL) AND (NOT taken_back))',
    },
  ],
});
