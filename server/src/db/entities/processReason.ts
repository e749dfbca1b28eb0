import type { ProcessId } from '@ladder/core';
import { EntitySchema } from 'typeorm';

export interface ProcessReasonRow {
  processId: ProcessId;
  id: string;
  outcome: string;
  name: string;
  asksFollowUp: boolean;
  withdrawn: boolean;
  place: number;
}

export const ProcessReasonEntity = new EntitySchema<ProcessReasonRow>({
  name: 'processReason',
  tableName: 'process_reasons',
  columns: {
    processId: { type: 'uuid', primary: true },
    id: { type: 'text', primary: true, collation: 'C' },
    outcome: { type: 'text' },
    name: { type: 'text' },
    asksFollowUp: { type: 'boolean', default: false },
    withdrawn: { type: 'boolean', default: false },
    place: { type: 'integer' },
  },
  foreignKeys: [
    {
      name: 'process_reasons_process_id_fkey',
      target: 'process',
      columnNames: ['processId'],
      referencedColumnNames: ['id'],
    },
  ],
});
