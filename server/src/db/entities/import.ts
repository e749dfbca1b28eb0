import type { DateReading, ProcessId } from '@ladder/core';
import { EntitySchema } from 'typeorm';
import { oneOf } from './oneOf.ts';

/** What stands of an import; what is just being done with it is told by its work. */
const STORED_IMPORT_STATES = ['uploaded', 'done', 'taken_back'] as const;
export type StoredImportState = (typeof STORED_IMPORT_STATES)[number];

export interface ImportRow {
  id: string;
  fileName: string;
  processId: ProcessId;
  byId: string;
  state: StoredImportState;
  uploadedAt: Date;
  bytes: string;
  settings: unknown;
  rowsTotal: number | null;
  created: number;
  updated: number;
  skipped: number;
  bad: number;
  dateOrders: { readonly delimiter: string; readonly readings: readonly DateReading[] };
}

export const ImportEntity = new EntitySchema<ImportRow>({
  name: 'import',
  tableName: 'imports',
  columns: {
    id: { type: 'uuid', primary: true },
    fileName: { type: 'text' },
    processId: { type: 'uuid' },
    byId: { type: 'uuid' },
    state: { type: 'text' },
    uploadedAt: { type: 'timestamptz' },
    bytes: { type: 'bigint', default: 0 },
    settings: { type: 'jsonb', nullable: true },
    rowsTotal: { type: 'integer', nullable: true },
    created: { type: 'integer', default: 0 },
    updated: { type: 'integer', default: 0 },
    skipped: { type: 'integer', default: 0 },
    bad: { type: 'integer', default: 0 },
    dateOrders: { type: 'jsonb', default: () => '\'{"readings": [], "delimiter": ","}\'' },
  },
  checks: [oneOf('imports_state_check', 'state', STORED_IMPORT_STATES)],
  foreignKeys: [
    { name: 'imports_by_id_fkey', target: 'person', columnNames: ['byId'], referencedColumnNames: ['id'] },
    { name: 'imports_process_id_fkey', target: 'process', columnNames: ['processId'], referencedColumnNames: ['id'] },
  ],
  indices: [{ name: 'imports_by_time', columns: ['uploadedAt', 'id'], synchronize: false }],
});
