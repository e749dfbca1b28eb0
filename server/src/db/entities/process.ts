import type { Assignment, HouseRules, ProcessAccess, ProcessId, TaskFates, WaiverRights } from '@ladder/core';
import { PROCESS_KINDS, type ProcessKind } from '@ladder/core';
import { EntitySchema } from 'typeorm';
import { oneOf } from './oneOf.ts';

export interface ProcessRow {
  id: ProcessId;
  name: string;
  nameFold: string;
  kind: ProcessKind;
  calendarId: string;
  closedToNew: boolean;
  /** A rule that is off may be left out. */
  houseRules: Partial<HouseRules>;
  taskFates: TaskFates;
  access: ProcessAccess;
  assignment: Assignment;
  /** What is left out is as usual. */
  waiverRights: Partial<WaiverRights>;
  cardLayout: unknown;
}

export const ProcessEntity = new EntitySchema<ProcessRow>({
  name: 'process',
  tableName: 'processes',
  columns: {
    id: { type: 'uuid', primary: true },
    name: { type: 'text', collation: 'C' },
    nameFold: { type: 'text', collation: 'C' },
    kind: { type: 'text' },
    calendarId: { type: 'uuid' },
    closedToNew: { type: 'boolean', default: false },
    houseRules: { type: 'jsonb', default: () => "'{}'" },
    taskFates: { type: 'jsonb', default: () => '\'{"return": "keep", "closing": "ask", "forward": "keep"}\'' },
    access: { type: 'jsonb', default: () => "'{}'" },
    assignment: { type: 'jsonb', default: () => '\'{"by": "hand"}\'' },
    waiverRights: { type: 'jsonb', default: () => "'{}'" },
    cardLayout: { type: 'jsonb', default: () => "'{}'" },
  },
  uniques: [{ name: 'processes_name_fold_key', columns: ['nameFold'] }],
  checks: [oneOf('processes_kind_check', 'kind', PROCESS_KINDS)],
  foreignKeys: [
    {
      name: 'processes_calendar_id_fkey',
      target: 'calendar',
      columnNames: ['calendarId'],
      referencedColumnNames: ['id'],
    },
  ],
});
