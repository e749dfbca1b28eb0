import { WORK_KINDS, WORK_STATES, type WorkKindName } from '@ladder/contract';
import { EntitySchema } from 'typeorm';
import { oneOf } from './oneOf.ts';

export interface LongWorkRow {
  id: string;
  place: string;
  kind: WorkKindName;
  subject: string;
  request: unknown;
  byId: string;
  state: (typeof WORK_STATES)[number];
  startedAt: Date;
  endedAt: Date | null;
  done: number;
  total: number | null;
  /** Without coming to an end of any kind. */
  begun: number;
  cancelAsked: boolean;
  /** What it is about is done for good; the rest follows by itself. */
  binding: boolean;
  deals: number | null;
  problem: unknown;
}

export const LongWorkEntity = new EntitySchema<LongWorkRow>({
  name: 'longWork',
  tableName: 'long_work',
  columns: {
    id: { type: 'uuid', primary: true },
    place: { type: 'bigint', generated: 'increment' },
    kind: { type: 'text' },
    subject: { type: 'text', collation: 'C' },
    request: { type: 'jsonb' },
    byId: { type: 'uuid' },
    state: { type: 'text' },
    startedAt: { type: 'timestamptz' },
    endedAt: { type: 'timestamptz', nullable: true },
    done: { type: 'integer', default: 0 },
    total: { type: 'integer', nullable: true },
    begun: { type: 'integer', default: 0 },
    cancelAsked: { type: 'boolean', default: false },
    binding: { type: 'boolean', default: false },
    deals: { type: 'integer', nullable: true },
    problem: { type: 'jsonb', nullable: true },
  },
  uniques: [{ name: 'long_work_place_key', columns: ['place'] }],
  checks: [
    { name: 'long_work_ended', expression: "((state = 'running'::text) = (ended_at IS NULL))" },
    oneOf('long_work_kind_check', 'kind', WORK_KINDS),
    {
      name: 'long_work_outcome',
      expression:
        "(((state = 'done'::text) = (deals IS NOT NULL)) AND ((state = 'failed'::text) = (problem IS NOT NULL)))",
    },
    oneOf('long_work_state_check', 'state', WORK_STATES),
  ],
  foreignKeys: [
    { name: 'long_work_by_id_fkey', target: 'person', columnNames: ['byId'], referencedColumnNames: ['id'] },
  ],
  indices: [
    { name: 'long_work_by_subject', columns: ['subject', 'place'] },
    { name: 'long_work_one_at_a_time', columns: ['subject'], unique: true, where: "(state = 'running'::text)" },
  ],
});
