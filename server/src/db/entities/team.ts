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
    name: { type: 'text', collation: 'C' },
    nameFold: { type: 'text', collation: 'C' },
  },
  uniques: [{ name: 'teams_name_fold_key', columns: ['nameFold'] }],
});
