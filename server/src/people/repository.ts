import type { people, TypeOf } from '@ladder/contract';
import { asArray, type Connection, sql } from '../db/sql.ts';

export type Account = TypeOf<typeof people.account>;

const TEAMS_OF = `array(select team_id::text from team_members where person_id = people.id order by 1)`;
const ACCOUNT = `id, name, email, role, ${TEAMS_OF} as teams, active`;

/** Who is listed, and what is told of each. */
export const PEOPLE = {
  /** Who may sign in, as everyone sees them. */
  people: { columns: `id, name, role, ${TEAMS_OF} as teams`, condition: 'active' },
  accounts: { columns: ACCOUNT, condition: 'true' },
} as const;

export function findPeople(
  connection: Connection,
  who: keyof typeof PEOPLE,
  find: string,
  limit: number,
  cursor: readonly [string, string] | null,
): Promise<{ id: string; name: string }[]> {
  const { columns, condition } = PEOPLE[who];
  return sql<{ id: string; name: string }>(
    connection,
    `select ${columns} from people
     where ${condition} and (:name::text is null or (name, id) > (:name::text, :id::uuid)) and strpos(lower(name), lower(:find)) > 0
     order by name, id limit :limit`,
    { name: cursor?.[0], id: cursor?.[1], find, limit },
  );
}

export async function findAccount(connection: Connection, id: string): Promise<Account | null> {
  const [row] = await sql<Account>(connection, `select ${ACCOUNT} from people where id = :id`, { id });
  return row ?? null;
}

export const findTeams = (
  connection: Connection,
  find: string,
  limit: number,
  after: string | undefined,
): Promise<{ id: string; name: string; name_fold: string }[]> =>
  sql<{ id: string; name: string; name_fold: string }>(
    connection,
    `select id, name, name_fold from teams where (:after::text is null or name_fold > :after) and strpos(name_fold, :find) > 0 order by name_fold limit :limit`,
    { after, find, limit },
  );

/** The first team of people, by name: all people, or those who are named. */
export async function firstTeams(
  connection: Connection,
  people?: readonly string[],
): Promise<ReadonlyMap<string, string>> {
  const rows = await sql<{ person: string; team: string }>(
    connection,
    `select distinct on (m.person_id) m.person_id as person, m.team_id as team from team_members m join teams t on t.id = m.team_id
     where ${people ? 'm.person_id::text = any(:people::text[])' : 'true'} order by m.person_id, t.name_fold`,
    people ? { people: asArray(people) } : {},
  );
  return new Map(rows.map(({ person, team }) => [person, team]));
}
