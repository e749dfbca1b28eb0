import type { ProcessId, VersionId } from '@ladder/core';
import { type ChangedRequirements, type Field, type ProcessDocument, readDocument } from '@ladder/core';
import { EntitySchema } from 'typeorm';
import { oneOf } from './oneOf.ts';

const STORED_VERSION_STATES = ['draft', 'live', 'superseded'] as const;
type StoredVersionState = (typeof STORED_VERSION_STATES)[number];

export interface ProcessVersionRow {
  id: VersionId;
  processId: ProcessId;
  number: number;
  /** `superseded` reads as *in use* while open deals follow it, else as *past*. */
  state: StoredVersionState;
  document: ProcessDocument;
  fields: readonly Field[];
  revision: number;
  savedAt: Date;
  publishedAt: Date | null;
  publishedBy: string | null;
  /** What was said of it as it was published. */
  note: string | null;
  /** When the next one was published. */
  supersededAt: Date | null;
  /** The days of grace that its publish gave. */
  grace: { readonly until: number; readonly changed: Readonly<Record<string, ChangedRequirements>> } | null;
}

export const ProcessVersionEntity = new EntitySchema<ProcessVersionRow>({
  name: 'processVersion',
  tableName: 'process_versions',
  columns: {
    id: { type: 'uuid', primary: true },
    processId: { type: 'uuid' },
    number: { type: 'integer' },
    state: { type: 'text' },
    document: { type: 'jsonb', transformer: { from: readDocument, to: (document: ProcessDocument) => document } },
    fields: { type: 'jsonb', default: () => "'[]'" },
    revision: { type: 'integer', default: 1 },
    savedAt: { type: 'timestamptz' },
    publishedAt: { type: 'timestamptz', nullable: true },
    publishedBy: { type: 'uuid', nullable: true },
    note: { type: 'text', nullable: true },
    supersededAt: { type: 'timestamptz', nullable: true },
    grace: { type: 'jsonb', nullable: true },
  },
  uniques: [{ name: 'process_versions_process_id_number_key', columns: ['processId', 'number'] }],
  checks: [
    oneOf('process_versions_state_check', 'state', STORED_VERSION_STATES),
    {
      name: 'process_versions_superseded',
      expression: "((superseded_at IS NULL) OR (state = 'superseded'::text))",
    },
  ],
  foreignKeys: [
    {
      name: 'process_versions_process_id_fkey',
      target: 'process',
      columnNames: ['processId'],
      referencedColumnNames: ['id'],
    },
    {
      name: 'process_versions_published_by_fkey',
      target: 'person',
      columnNames: ['publishedBy'],
      referencedColumnNames: ['id'],
    },
  ],
  indices: [
    { name: 'process_versions_one_draft', columns: ['processId'], unique: true, where: "(state = 'draft'::text)" },
    { name: 'process_versions_one_live', columns: ['processId'], unique: true, where: "(state = 'live'::text)" },
  ],
});
