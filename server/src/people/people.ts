import type { people as contract, Role, TypeOf } from '@ladder/contract';
import { foldText } from '@ladder/core';
import { hash } from '@node-rs/argon2';
import type { EntityManager } from 'typeorm';
import { type Context, inCommand } from '../context.ts';
import { PersonEntity } from '../db/entities/person.ts';
import { asArray, sql } from '../db/sql.ts';
import { DEFAULT_LIMIT, type ListQuery, readCursor, toPage } from '../http/pages.ts';
import { newId } from '../ids.ts';
import { invalid, notFound } from '../problems/problem.ts';
import type { Person } from '../session/person.ts';

type Account = TypeOf<typeof contract.account>;

const TEAMS_OF = `array(select team_id::text from team_members where person_id = people.id order by 1)`;

/** People who may sign in, as everyone sees them. */
export async function listPeople(context: Context, query: ListQuery): Promise<unknown> {
  return pageOfPeople(context, query, `id, name, role, ${TEAMS_OF} as teams`, 'active');
}

/** Everyone, with how they sign in. */
export async function listAccounts(context: Context, query: ListQuery): Promise<unknown> {
  return pageOfPeople(context, query, ACCOUNT, 'true');
}

const ACCOUNT = `id, name, email, role, ${TEAMS_OF} as teams, active`;

async function pageOfPeople(context: Context, query: ListQuery, columns: string, condition: string): Promise<unknown> {
  const [limit, cursor] = [query.limit ?? DEFAULT_LIMIT, readCursor(query.after, ['text', 'id'])];
  const rows = await sql<{ id: string; name: string }>(
    context.dataSource,
    `select ${columns} from people
     where ${condition} and (:name::text is null or (name, id) > (:name::text, :id::uuid)) and strpos(lower(name), lower(:find)) > 0
     order by name, id limit :limit`,
    { name: cursor?.[0], id: cursor?.[1], find: query.find ?? '', limit: limit + 1 },
  );
  return toPage(
    rows,
    limit,
    ({ name, id }) => [name, id],
    (row) => row,
  );
}

export async function addPerson(
  { clock }: Context,
  tx: EntityManager,
  { name, email, role, teams, password }: TypeOf<typeof contract.newPerson>,
): Promise<Person> {
  const id = newId(clock.now());
  const passwordHash = await hash(password);
  await tx
    .getRepository(PersonEntity)
    .insert({ id, name, email, emailFold: foldText(email), title: '', role, passwordHash, active: true });
  await putInTeams(tx, id, teams);
  return { id, name, role, teams };
}

async function putInTeams(tx: EntityManager, person: string, teams: readonly string[]): Promise<void> {
  const wanted = [...new Set(teams)];
  const known = await sql(tx, `select id from teams where id = any(:wanted::uuid[])`, { wanted: asArray(wanted) });
  if (known.length < wanted.length)
    throw invalid([{ pointer: '/teams', detail: 'One of these teams does not exist.' }]);
  await sql(tx, `delete from team_members where person_id = :person`, { person });
  await sql(tx, `insert into team_members select :person::uuid, unnest(:wanted::uuid[])`, {
    person,
    wanted: asArray(wanted),
  });
}

/**
 * Changes an account. Whoever may no longer sign in, or has a new password, is signed out everywhere; their deals stay
 * theirs. Somebody has to stay administrator.
 */
export async function changeAccount(
  context: Context,
  id: string,
  change: TypeOf<typeof contract.accountChange>,
): Promise<Account> {
  const { password, teams, email, ...plain } = change;
  const passwordHash = password === undefined ? undefined : await hash(password);
  return inCommand(context, async (tx) => {
    const before = await lockAccount(tx, id);
    const columns = {
      ...plain,
      ...(email === undefined ? {} : { email, emailFold: foldText(email) }),
      ...(passwordHash === undefined ? {} : { passwordHash }),
    };
    if (Object.keys(columns).length > 0) await tx.getRepository(PersonEntity).update({ id }, columns);
    if (teams) await putInTeams(tx, id, teams);
    if (before.role === 'administrator') await requireAdministrator(tx);
    if (change.active === false || passwordHash !== undefined)
      await sql(tx, `delete from sessions where person_id = :id`, { id });
    return readAccount(tx, id);
  });
}

/** Locks the administrators too, so that two of them cannot take the role from each other at once. */
async function lockAccount(tx: EntityManager, id: string): Promise<{ readonly role: Role }> {
  const rows = await sql<{ id: string; role: Role }>(
    tx,
    `select id, role from people where id = :id or role = 'administrator' order by id for update`,
    { id },
  );
  const own = rows.find((row) => row.id === id);
  if (!own) throw notFound('person');
  return own;
}

async function requireAdministrator(tx: EntityManager): Promise<void> {
  const [row] = await sql(tx, `select id from people where role = 'administrator' and active limit 1`);
  if (!row)
    throw invalid([{ pointer: '/role', detail: 'This is the only administrator. Make another one first.' }], 422);
}

async function readAccount(tx: EntityManager, id: string): Promise<Account> {
  const [row] = await sql<Account>(tx, `select ${ACCOUNT} from people where id = :id`, { id });
  if (!row) throw notFound('person');
  return row;
}
