import type { people, TypeOf } from '@ladder/contract';
import type { DealId, ProcessId, StoredDocument } from '@ladder/core';
import { asArray, type Connection, sql } from '../db/sql.ts';
import { HIDDEN_PROCESSES } from '../session/hiddenProcesses.ts';

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

/** An account by which it is decided what somebody may see and change: with the processes that are hidden from them. */
export interface AccountWithAccess extends Account {
  readonly hiddenProcesses: readonly string[];
}

export async function findAccountWithAccess(connection: Connection, id: string): Promise<AccountWithAccess | null> {
  const [row] = await sql<AccountWithAccess>(
    connection,
    `select ${ACCOUNT}, ${HIDDEN_PROCESSES('people')} as "hiddenProcesses" from people where id = :id`,
    { id },
  );
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

/** Who is away on that day or later, the next first. There are no more than people. */
export async function findAbsences(
  connection: Connection,
  today: string,
): Promise<readonly TypeOf<typeof people.absence>[]> {
  return sql(
    connection,
    `select json_build_object('id', p.id, 'name', p.name) as person, a.from_day::text as "from", a.to_day::text as "to",
       json_build_object('id', s.id, 'name', s.name) as substitute
     from absences a join people p on p.id = a.person_id join people s on s.id = a.substitute_id where a.to_day >= :today order by a.from_day, p.name`,
    { today },
  );
}

const OWNED = `select d.id from deals d where d.owner_id = :person and (d.status = 'open' or (d.status <> 'voided' and d.follow_up_day is not null))`;
/** Deals of others on which something falls to them, or is asked for by them. */
const OTHERS = `select d.id from deals d where d.status <> 'voided' and d.owner_id is distinct from :person and d.id in (
  select t.deal_id from tasks t where t.assignee_id = :person and t.ended_at is null
  union select r.deal_id from step_runs r where r.assignee_id = :person and r.ended_at is null and not r.taken_back
  union select w.deal_id from waivers w where w.asked_by = :person and w.decided_at is null)`;

/** Closed deals of theirs with open tasks are theirs to see to as well. */
const KEPT = `select d.id from deals d where d.owner_id = :person and d.status in ('won', 'lost') and d.follow_up_day is null
  and d.id in (select t.deal_id from tasks t where t.assignee_id = :person and t.ended_at is null)`;

type Counts = Omit<TypeOf<typeof people.holdings>, 'named'>;

/** How much of each kind falls to a person. */
export async function countHoldings(connection: Connection, person: string): Promise<Counts> {
  const [row] = await sql<Counts>(
    connection,
    `select
       (select count(*)::int from deals d where d.owner_id = :person and d.status = 'open') as "openDeals",
       (select count(*)::int from deals d where d.owner_id = :person and d.status in ('won', 'lost') and d.follow_up_day is not null) as "followUps",
       (select count(*)::int from (${OTHERS}) others) as others,
       (select count(*)::int from tasks t where t.assignee_id = :person and t.ended_at is null) as tasks,
       (select count(*)::int from step_runs r where r.assignee_id = :person and r.ended_at is null and not r.taken_back) as steps,
       (select count(distinct (w.deal_id, w.request))::int from waivers w where w.asked_by = :person and w.decided_at is null) as requests,
       (select count(*)::int from absences a where a.substitute_id = :person) as "standIns"`,
    { person },
  );
  if (!row) throw new Error('A count without a row');
  return row;
}

/** Some of the deals on which anything is still theirs. */
export async function findHeldDeals(connection: Connection, person: string, most: number): Promise<readonly DealId[]> {
  const rows = await sql<{ id: DealId }>(connection, `(${OWNED}) union (${OTHERS}) union (${KEPT}) limit :most`, {
    person,
    most,
  });
  return rows.map(({ id }) => id);
}

/** Live versions that name somebody anywhere. */
export const stepsNaming = (
  connection: Connection,
  person: string,
): Promise<{ process: ProcessId; name: string; document: StoredDocument }[]> =>
  sql(
    connection,
    `select p.id as process, p.name, v.document from process_versions v join processes p on p.id = v.process_id
     where v.state = 'live' and strpos(v.document::text, :person) > 0 order by p.name`,
    { person },
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
