import type { ProcessId } from '@ladder/core';
import { LEVELS, type Level } from '@ladder/core';
import { EntitySchema } from 'typeorm';
import { oneOf } from './oneOf.ts';

export interface FindingRow {
  dealId: string;
  key: string;
  openedAt: Date;
  closedAt: Date;
  processId: ProcessId;
  kind: string;
  level: Level;
  origin: string;
  requirement: string | null;
  askedBy: string | null;
}

export const FindingEntity = new EntitySchema<FindingRow>({
  name: 'finding',
  tableName: 'findings',
  columns: {
    dealId: { type: 'uuid', primary: true },
    key: { type: 'text', primary: true, collation: 'C' },
    openedAt: { type: 'timestamptz', primary: true },
    closedAt: { type: 'timestamptz', default: () => "'infinity'" },
    processId: { type: 'uuid' },
    kind: { type: 'text' },
    level: { type: 'text' },
    origin: { type: 'text' },
    requirement: { type: 'text', nullable: true },
    askedBy: { type: 'text', nullable: true },
  },
  checks: [
    { name: 'findings_check', expression: '(opened_at < closed_at)' },
    oneOf('findings_level_check', 'level', LEVELS),
  ],
  foreignKeys: [
    { name: 'findings_deal_id_fkey', target: 'deal', columnNames: ['dealId'], referencedColumnNames: ['id'] },
  ],
  indices: [
    { name: 'findings_by_end', columns: ['processId', 'closedAt', 'openedAt'] },
    { name: 'findings_standing', synchronize: false },
  ],
});
