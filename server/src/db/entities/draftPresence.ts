import type { ProcessId } from '@ladder/core';
import { EntitySchema } from 'typeorm';

export interface DraftPresenceRow {
  processId: ProcessId;
  personId: string;
  seenAt: Date;
}

export const DraftPresenceEntity = new EntitySchema<DraftPresenceRow>({
  name: 'draftPresence',
  tableName: 'draft_presence',
  columns: {
    processId: { type: 'uuid', primary: true },
    personId: { type: 'uuid', primary: true },
    seenAt: { type: 'timestamptz' },
  },
  foreignKeys: [
    {
      name: 'draft_presence_person_id_fkey',
      target: 'person',
      columnNames: ['personId'],
      referencedColumnNames: ['id'],
    },
    {
      name: 'draft_presence_process_id_fkey',
      target: 'process',
      columnNames: ['processId'],
      referencedColumnNames: ['id'],
    },
  ],
});
