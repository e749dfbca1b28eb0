import { EntitySchema } from 'typeorm';

export interface TeamMemberRow {
  personId: string;
  teamId: string;
}

export const TeamMemberEntity = new EntitySchema<TeamMemberRow>({
  name: 'teamMember',
  tableName: 'team_members',
  columns: {
    personId: { type: 'uuid', primary: true },
    teamId: { type: 'uuid', primary: true },
  },
  foreignKeys: [
    { name: 'team_members_person_id_fkey', target: 'person', columnNames: ['personId'], referencedColumnNames: ['id'] },
    { name: 'team_members_team_id_fkey', target: 'team', columnNames: ['teamId'], referencedColumnNames: ['id'] },
  ],
  indices: [{ name: 'team_members_by_team', columns: ['teamId'] }],
});
