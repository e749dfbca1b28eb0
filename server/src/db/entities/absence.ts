import { EntitySchema } from 'typeorm';

export interface AbsenceRow {
  personId: string;
  fromDay: string;
  toDay: string;
  substituteId: string;
}

export const AbsenceEntity = new EntitySchema<AbsenceRow>({
  name: 'absence',
  tableName: 'absences',
  columns: {
    personId: { type: 'uuid', primary: true },
    fromDay: { type: 'date' },
    toDay: { type: 'date' },
    substituteId: { type: 'uuid' },
  },
  checks: [
    { name: 'absences_days', expression: '(from_day <= to_day)' },
    { name: 'absences_other', expression: '(person_id <> substitute_id)' },
  ],
  foreignKeys: [
    { name: 'absences_person_id_fkey', target: 'person', columnNames: ['personId'], referencedColumnNames: ['id'] },
    {
      name: 'absences_substitute_id_fkey',
      target: 'person',
      columnNames: ['substituteId'],
      referencedColumnNames: ['id'],
    },
  ],
  indices: [{ name: 'absences_by_substitute', columns: ['substituteId'] }],
});
