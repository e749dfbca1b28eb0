import type { DealId, DealStatus, ProcessId, StageId, Standing } from '@ladder/core';
import { EntitySchema } from 'typeorm';

/**
 * What a change said otherwise of the time before it: that a deal had been taken to stand so until then (1), or stood so without
 * its being known (-1). It was learned when what it says ends, or later.
 */
export interface StateCorrectionRow {
  id: string;
  dealId: DealId;
  processId: ProcessId;
  fromAt: Date;
  toAt: Date;
  counts: 1 | -1;
  status: DealStatus['state'];
  stageId: StageId;
  standing: Standing;
  currency: string;
  kinds: string;
  valueMinor: string | null;
  enteredDay: string;
  moveOnDay: string | null;
  closeDate: string | null;
  ownerId: string | null;
  teamId: string | null;
  shape: number;
}

export const StateCorrectionEntity = new EntitySchema<StateCorrectionRow>({
  name: 'stateCorrection',
  tableName: 'state_corrections',
  columns: {
    id: { type: 'bigint', primary: true, generated: 'increment' },
    dealId: { type: 'uuid' },
    processId: { type: 'uuid' },
    fromAt: { type: 'timestamptz' },
    toAt: { type: 'timestamptz' },
    counts: { type: 'smallint' },
    status: { type: 'text' },
    stageId: { type: 'text', collation: 'C' },
    standing: { type: 'text' },
    currency: { type: 'char', length: 3 },
    kinds: { type: 'text', collation: 'C' },
    valueMinor: { type: 'bigint', nullable: true },
    enteredDay: { type: 'date' },
    moveOnDay: { type: 'date', nullable: true },
    closeDate: { type: 'date', nullable: true },
    ownerId: { type: 'uuid', nullable: true },
    teamId: { type: 'uuid', nullable: true },
    shape: { type: 'integer' },
  },
  checks: [
    { name: 'state_corrections_check', expression: '(from_at < to_at)' },
    { name: 'state_corrections_counts_check', expression: '(counts = ANY (ARRAY[-1, 1]))' },
  ],
  foreignKeys: [
    {
      name: 'state_corrections_deal_id_fkey',
      target: 'deal',
      columnNames: ['dealId'],
      referencedColumnNames: ['id'],
    },
  ],
  indices: [
    // How the book was taken to stand on a past day, beside how it is known to have stood.
    {
      name: 'state_corrections_past',
      columns: ['processId', 'toAt', 'fromAt'],
      where: "(status = 'open'::text)",
    },
  ],
});
