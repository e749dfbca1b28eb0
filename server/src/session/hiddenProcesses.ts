/** Ids of the processes that none of a person's teams sees, by the alias of the person's row; administrators and viewers see all. */
export const HIDDEN_PROCESSES = (person: string): string =>
  `array(select c.id::text from processes c where ${person}.role in ('seller', 'manager') and c.access -> 'teams' is not null
     and not exists (select from team_members m where m.person_id = ${person}.id and jsonb_exists(c.access -> 'teams', m.team_id::text)))`;
