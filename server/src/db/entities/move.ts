import type { ProcessId } from '@ladder/core';
import { EntitySchema } from 'typeorm';

export interface MoveRow {
  dealId: string;
  seq: number;
  processId: ProcessId;
  versionId: string;
  kind: string;
  fromStage: string | null;
  toStage: string | null;
  overStages: readonly string[];
  happenedAt: Date;
  recordedAt: Date;
  day: string;
  stayDays: number | null;
  targetDays: number | null;
  byId: string | null;
  forced: boolean;
  reasonId: string | null;
  ownerId: string | null;
  teamId: string | null;
  source: string | null;
  valueMinor: string | null;
  currency: string | null;
  reportingMinor: string | null;
  verdict: unknown;
  snapshot: unknown;
  takenBackAt: Date | null;
  takenBackBy: string | null;
  counts: boolean;
  outcomeId: string | null;
  byActor: string | null;
  takenBackActor: string | null;
  reopenedAt: Date | null;
  voidedAt: Date | null;
}

export const MoveEntity = new EntitySchema<MoveRow>({
  name: 'move',
  tableName: 'moves',
  columns: {
    dealId: { type: 'uuid', primary: true },
    seq: { type: 'integer', primary: true },
    processId: { type: 'uuid' },
    versionId: { type: 'uuid' },
    kind: { type: 'text' },
    fromStage: { type: 'text', nullable: true, collation: 'C' },
    toStage: { type: 'text', nullable: true, collation: 'C' },
    overStages: { type: 'text', array: true },
    happenedAt: { type: 'timestamptz' },
    recordedAt: { type: 'timestamptz' },
    day: { type: 'date' },
    stayDays: { type: 'integer', nullable: true },
    targetDays: { type: 'integer', nullable: true },
    byId: { type: 'uuid', nullable: true },
    forced: { type: 'boolean' },
    reasonId: { type: 'text', nullable: true },
    ownerId: { type: 'uuid', nullable: true },
    teamId: { type: 'uuid', nullable: true },
    source: { type: 'text', nullable: true },
    valueMinor: { type: 'bigint', nullable: true },
    currency: { type: 'char', length: 3, nullable: true },
    reportingMinor: { type: 'bigint', nullable: true },
    verdict: { type: 'jsonb' },
    snapshot: { type: 'jsonb' },
    takenBackAt: { type: 'timestamptz', nullable: true },
    takenBackBy: { type: 'uuid', nullable: true },
    counts: { type: 'boolean', default: true },
    outcomeId: { type: 'text', nullable: true, collation: 'C' },
    byActor: { type: 'text', nullable: true, collation: 'C' },
    takenBackActor: { type: 'text', nullable: true, collation: 'C' },
    reopenedAt: { type: 'timestamptz', nullable: true },
    voidedAt: { type: 'timestamptz', nullable: true },
  },
  checks: [{ name: 'moves_actor', expression: '(num_nonnulls(by_id, by_actor) = 1)' }],
  foreignKeys: [
    { name: 'moves_by_id_fkey', target: 'person', columnNames: ['byId'], referencedColumnNames: ['id'] },
    { name: 'moves_deal_id_fkey', target: 'deal', columnNames: ['dealId'], referencedColumnNames: ['id'] },
    { name: 'moves_taken_back_by_fkey', target: 'person', columnNames: ['takenBackBy'], referencedColumnNames: ['id'] },
  ],
  indices: [
    {
      name: 'moves_by_day',
      columns: ['processId', 'day', 'kind', 'fromStage', 'toStage', 'stayDays', 'ownerId', 'teamId'],
      where: 'counts',
      synchronize: false,
    },
    { name: 'moves_over', synchronize: false },
    { name: 'moves_closing', synchronize: false },
    // What makes of the moves that count those that counted, or were known, at the end of a period that has gone by.
    { name: 'moves_dropped', columns: ['processId', 'day'], where: '(NOT counts)' },
    { name: 'moves_recorded_late', synchronize: false },
  ],
});
