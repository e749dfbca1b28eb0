import type { ProcessId } from '@ladder/core';
import { EntitySchema } from 'typeorm';

/**
 * By how many more the open deals of one shape, that came to their stage on one day and are to move on by one, are from an
 * instant on, and what more they are worth as their currency has it. PostgreSQL writes it with `deal_states`.
 */
export interface OpenSumRow {
  processId: ProcessId;
  at: Date;
  id: string;
  enteredDay: string;
  moveOnDay: string | null;
  shape: string;
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
    enteredDay: { type: 'date' },
    moveOnDay: { type: 'date', nullable: true },
    shape: { type: 'text', collation: 'C' },
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
