import { EntitySchema } from 'typeorm';

export interface TeamRow {
  id: string;
  name: string;
  nameFold: string;
}

export const TeamEntity = new EntitySchema<TeamRow>({
  name: 'team',
  tableName: 'teams',
  columns: {
    id: { type: 'uuid', primary: true },
    name: { type: 'text' },
    nameFold: { type: 'text', name: 'name_fold' },
  },
});
