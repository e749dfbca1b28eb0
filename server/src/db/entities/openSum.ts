import type { ProcessId } from '@ladder/core';
import { EntitySchema } from 'typeorm';

/** By how many more open deals have this sum key from an instant on, and what more they are worth. PostgreSQL writes it with `deal_states`. */
export interface OpenSumRow {
  processId: ProcessId;
  at: Date;
  id: string;
  sumKey: string;
  deals: number;
  /** Those among them that have a value. */
  valued: number;
  minor: string;
  /** Whether it stands for what was written one by one. */
  folded: boolean;
}

export const OpenSumEntity = new EntitySchema<OpenSumRow>({
  name: 'openSum',
  tableName: 'open_sums',
  columns: {
    processId: { type: 'uuid', primary: true },
    at: { type: 'timestamptz', primary: true },
    id: { type: 'bigint', primary: true, generated: 'increment' },
    sumKey: { type: 'bigint' },
    deals: { type: 'integer' },
    valued: { type: 'integer', default: 0 },
    minor: { type: 'numeric', default: 0 },
    folded: { type: 'boolean', default: false },
  },
  foreignKeys: [
    {
      name: 'open_sums_process_id_fkey',
      target: 'process',
      columnNames: ['processId'],
      referencedColumnNames: ['id'],
    },
  ],
});
