import type { ProcessId } from '@ladder/core';
import { EntitySchema } from 'typeorm';

export interface ProcessLogEntryRow {
  id: string;
  processId: ProcessId;
  at: Date;
  byId: string;
  what: string;
  before: unknown;
  after: unknown;
}

export const ProcessLogEntryEntity = new EntitySchema<ProcessLogEntryRow>({
  name: 'processLogEntry',
  tableName: 'process_log',
  columns: {
    id: { type: 'bigint', primary: true, generated: 'increment' },
    processId: { type: 'uuid' },
    at: { type: 'timestamptz' },
    byId: { type: 'uuid' },
    what: { type: 'text' },
    before: { type: 'jsonb', nullable: true },
    after: { type: 'jsonb', nullable: true },
  },
  foreignKeys: [
    { name: 'process_log_by_id_fkey', target: 'person', columnNames: ['byId'], referencedColumnNames: ['id'] },
    {
      name: 'process_log_process_id_fkey',
      target: 'process',
      columnNames: ['processId'],
      referencedColumnNames: ['id'],
    },
  ],
  indices: [{ name: 'process_log_by_process', columns: ['processId', 'id'] }],
});
