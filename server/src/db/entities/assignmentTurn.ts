import type { ProcessId } from '@ladder/core';
import { EntitySchema } from 'typeorm';

/** To whom the last new deal of a process went that is handed out in turn. */
export interface AssignmentTurnRow {
  processId: ProcessId;
  personId: string | null;
}

export const AssignmentTurnEntity = new EntitySchema<AssignmentTurnRow>({
  name: 'assignmentTurn',
  tableName: 'assignment_turns',
  columns: {
    processId: { type: 'uuid', primary: true },
    personId: { type: 'uuid', nullable: true },
  },
  foreignKeys: [
    {
      name: 'assignment_turns_person_id_fkey',
      target: 'person',
      columnNames: ['personId'],
      referencedColumnNames: ['id'],
    },
    {
      name: 'assignment_turns_process_id_fkey',
      target: 'process',
      columnNames: ['processId'],
      referencedColumnNames: ['id'],
    },
  ],
});
