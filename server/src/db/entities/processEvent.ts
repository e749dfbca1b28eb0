import type { ProcessId } from '@ladder/core';
import { EntitySchema } from 'typeorm';
import { oneOf } from './oneOf.ts';

export const PROCESS_EVENTS = ['published'] as const;

/** What happened to a process as a whole; each deal that it concerns shows it in its place. */
export interface ProcessEventRow {
  processId: ProcessId;
  seq: number;
  kind: (typeof PROCESS_EVENTS)[number];
  happenedAt: Date;
  recordedAt: Date;
  byId: string | null;
  byActor: string | null;
  body: unknown;
  previousHash: Buffer;
  hash: Buffer;
}

export const ProcessEventEntity = new EntitySchema<ProcessEventRow>({
  name: 'processEvent',
  tableName: 'process_events',
  columns: {
    processId: { type: 'uuid', primary: true },
    seq: { type: 'integer', primary: true },
    kind: { type: 'text' },
    happenedAt: { type: 'timestamptz' },
    recordedAt: { type: 'timestamptz' },
    byId: { type: 'uuid', nullable: true },
    byActor: { type: 'text', nullable: true, collation: 'C' },
    body: { type: 'jsonb' },
    previousHash: { type: 'bytea' },
    hash: { type: 'bytea' },
  },
  checks: [
    { name: 'process_events_actor', expression: '(num_nonnulls(by_id, by_actor) = 1)' },
    oneOf('process_events_kind_check', 'kind', PROCESS_EVENTS),
  ],
  foreignKeys: [
    {
      name: 'process_events_process_id_fkey',
      target: 'process',
      columnNames: ['processId'],
      referencedColumnNames: ['id'],
    },
    { name: 'process_events_by_id_fkey', target: 'person', columnNames: ['byId'], referencedColumnNames: ['id'] },
  ],
});
