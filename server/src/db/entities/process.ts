import type { HouseRules, ProcessKind } from '@ladder/core';
import { EntitySchema } from 'typeorm';

export interface ProcessRow {
  id: string;
  name: string;
  nameFold: string;
  kind: ProcessKind;
  calendarId: string;
  closedToNew: boolean;
  /** A rule that is off may be left out. */
  houseRules: Partial<HouseRules>;
}

export const ProcessEntity = new EntitySchema<ProcessRow>({
  name: 'process',
  tableName: 'processes',
  columns: {
    id: { type: 'uuid', primary: true },
    name: { type: 'text' },
    nameFold: { type: 'text', name: 'name_fold' },
    kind: { type: 'text' },
    calendarId: { type: 'uuid', name: 'calendar_id' },
    closedToNew: { type: 'boolean', name: 'closed_to_new' },
    houseRules: { type: 'jsonb', name: 'house_rules' },
  },
});
