import type { ProcessId } from '@ladder/core';
import { EntitySchema } from 'typeorm';

export interface DismissalRow {
  processId: ProcessId;
  remark: string;
  reason: string;
  byId: string;
  at: Date;
}

export const DismissalEntity = new EntitySchema<DismissalRow>({
  name: 'dismissal',
  tableName: 'dismissals',
  columns: {
    processId: { type: 'uuid', primary: true },
    remark: { type: 'text', primary: true, collation: 'C' },
    reason: { type: 'text' },
    byId: { type: 'uuid' },
    at: { type: 'timestamptz' },
  },
  foreignKeys: [
    { name: 'dismissals_by_id_fkey', target: 'person', columnNames: ['byId'], referencedColumnNames: ['id'] },
    {
      name: 'dismissals_process_id_fkey',
      target: 'process',
      columnNames: ['processId'],
      referencedColumnNames: ['id'],
    },
  ],
});
