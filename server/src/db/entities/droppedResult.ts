import type { DealId, ProcessId, StageId } from '@ladder/core';
import { EntitySchema } from 'typeorm';

/** What was once the result of a step, until it was taken back or its deal was voided: told of days before that, as it was known on them. */
export interface DroppedResultRow {
  id: string;
  dealId: DealId;
  processId: ProcessId;
  stageId: StageId;
  step: string;
  result: string;
  begunDay: string;
  endedDay: string;
  ownerId: string | null;
  teamId: string | null;
  droppedAt: Date;
}

export const DroppedResultEntity = new EntitySchema<DroppedResultRow>({
  name: 'droppedResult',
  tableName: 'dropped_results',
  columns: {
    id: { type: 'bigint', primary: true, generated: 'increment' },
    dealId: { type: 'uuid' },
    processId: { type: 'uuid' },
    stageId: { type: 'text', collation: 'C' },
    step: { type: 'text', collation: 'C' },
    result: { type: 'text', collation: 'C' },
    begunDay: { type: 'date' },
    endedDay: { type: 'date' },
    ownerId: { type: 'uuid', nullable: true },
    teamId: { type: 'uuid', nullable: true },
    droppedAt: { type: 'timestamptz' },
  },
  foreignKeys: [
    { name: 'dropped_results_deal_id_fkey', target: 'deal', columnNames: ['dealId'], referencedColumnNames: ['id'] },
  ],
  indices: [
    // What was told to have been done in a period that has gone by.
    { name: 'dropped_results_by_day', columns: ['processId', 'endedDay'] },
  ],
});
