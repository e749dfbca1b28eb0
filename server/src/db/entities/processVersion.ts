import { type ChangedRequirements, type Field, type ProcessDocument, readDocument } from '@ladder/core';
import { EntitySchema } from 'typeorm';

export interface ProcessVersionRow {
  id: string;
  processId: string;
  number: number;
  /** `superseded` reads as *in use* while open deals follow it, else as *past*. */
  state: 'draft' | 'live' | 'superseded';
  document: ProcessDocument;
  fields: readonly Field[];
  /** The days of grace that its publish gave. */
  grace: { readonly until: number; readonly changed: Readonly<Record<string, ChangedRequirements>> } | null;
  revision: number;
  savedAt: Date;
  publishedAt: Date | null;
  publishedBy: string | null;
}

export const ProcessVersionEntity = new EntitySchema<ProcessVersionRow>({
  name: 'process_version',
  tableName: 'process_versions',
  columns: {
    id: { type: 'uuid', primary: true },
    processId: { type: 'uuid', name: 'process_id' },
    number: { type: 'integer' },
    state: { type: 'text' },
    document: { type: 'jsonb', transformer: { from: readDocument, to: (document: ProcessDocument) => document } },
    fields: { type: 'jsonb' },
    grace: { type: 'jsonb', nullable: true },
    revision: { type: 'integer' },
    savedAt: { type: 'timestamptz', name: 'saved_at' },
    publishedAt: { type: 'timestamptz', name: 'published_at', nullable: true },
    publishedBy: { type: 'uuid', name: 'published_by', nullable: true },
  },
});
