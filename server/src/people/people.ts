import type { people as contract, Role, TypeOf } from '@ladder/contract';
import { foldText } from '@ladder/core';
import { hash } from '@node-rs/argon2';
import { type EntityManager, In } from 'typeorm';
import { type Context, inCommand } from '../context.ts';
import { PersonEntity } from '../db/entities/person.ts';
import { SessionEntity } from '../db/entities/session.ts';
import { TeamEntity } from '../db/entities/team.ts';
import { TeamMemberEntity } from '../db/entities/teamMember.ts';
import { DEFAULT_LIMIT, type ListQuery, readCursor, toPage } from '../http/pages.ts';
import { newId } from '../ids.ts';
import { invalid, notFound } from '../problems/problem.ts';
import type { Person } from '../session/person.ts';
import { logSetting, type Setter } from '../settingsLog/settingsLog.ts';
import { type Account, findAccount, findPeople, type PEOPLE } from './repository.ts';

/** People who may sign in, as everyone sees them. */
export async function listPeople(context: Context, query: ListQuery): Promise<unknown> {
  return pageOfPeople(context, query, 'people');
}

/** Everyone, with how they sign in. */
export async function listAccounts(context: Context, query: ListQuery): Promise<unknown> {
  return pageOfPeople(context, query, 'accounts');
}

async function pageOfPeople(context: Context, query: ListQuery, who: keyof typeof PEOPLE): Promise<unknown> {
  const [limit, cursor] = [query.limit ?? DEFAULT_LIMIT, readCursor(query.after, ['text', 'id'])];
  const rows = await findPeople(context.dataSource, who, query.find ?? '', limit + 1, cursor);
  return toPage(
    rows,
    limit,
    ({ name, id }) => [name, id],
    (row) => row,
  );
}

export const accountOf = (context: Context, id: string): Promise<Account> =>
  readAccount(context.dataSource.manager, id);

export async function addPerson(
  tx: EntityManager,
  { name, email, role, teams, password }: TypeOf<typeof contract.newPerson>,
  setter: Setter,
): Promise<Person> {
  const id = newId(setter.now);
  const passwordHash = await hash(password);
  await tx
    .getRepository(PersonEntity)
    .insert({ id, name, email, emailFold: foldText(email), title: '', role, passwordHash, active: true });
  await putInTeams(tx, id, teams);
  await logAccount(tx, null, await readAccount(tx, id), {}, setter);
  return { id, name, role, teams };
}

async function putInTeams(tx: EntityManager, person: string, teams: readonly string[]): Promise<void> {
  const wanted = [...new Set(teams)];
  const known = await tx.getRepository(TeamEntity).countBy({ id: In(wanted) });
  if (known < wanted.length) throw invalid([{ pointer: '/teams', detail: 'One of these teams does not exist.' }]);
  const members = tx.getRepository(TeamMemberEntity);
  await members.delete({ personId: person });
  if (wanted.length > 0) await members.insert(wanted.map((teamId) => ({ personId: person, teamId })));
}

/**
 * Changes an account. Whoever may no longer sign in, or has a new password, is signed out everywhere; their deals stay
 * theirs. Somebody has to stay administrator.
 */
export async function changeAccount(
  context: Context,
  id: string,
  change: TypeOf<typeof contract.accountChange>,
  setter: Setter,
): Promise<Account> {
  return inCommand(context, async (tx) => {
    const before = await lockAccount(tx, id);
    const after = await changeAccountIn(tx, id, change, setter);
    if (before.role === 'administrator') await requireAdministrator(tx);
    return after;
  });
}

/** The same within a transaction that has locked whoever it concerns. */
export async function changeAccountIn(
  tx: EntityManager,
  id: string,
  { password, teams, email, ...plain }: TypeOf<typeof contract.accountChange>,
  setter: Setter,
): Promise<Account> {
  const passwordHash = password === undefined ? undefined : await hash(password);
  const before = await readAccount(tx, id);
  const columns = {
    ...plain,
    ...(email === undefined ? {} : { email, emailFold: foldText(email) }),
    ...(passwordHash === undefined ? {} : { passwordHash }),
  };
  if (Object.keys(columns).length > 0) await tx.getRepository(PersonEntity).update({ id }, columns);
  if (teams) await putInTeams(tx, id, teams);
  if (plain.active === false || passwordHash !== undefined)
    await tx.getRepository(SessionEntity).delete({ personId: id });
  const after = await readAccount(tx, id);
  await logAccount(tx, before, after, passwordHash === undefined ? {} : { password: 'a new one' }, setter);
  return after;
}

/** Teams are told by name, and of a password that it is another: never the password. */
async function logAccount(
  tx: EntityManager,
  before: Account | null,
  after: Account,
  also: { readonly password?: string },
  setter: Setter,
): Promise<void> {
  const teams = await tx.getRepository(TeamEntity).findBy({ id: In([...(before?.teams ?? []), ...after.teams]) });
  const told = ({ name, email, role, active, teams: theirs }: Account) => ({
    name,
    'e-mail': email,
    role,
    'signs in': active,
    teams: teams.flatMap((team) => (theirs.includes(team.id) ? [team.name] : [])).sort(),
  });
  const change = { what: 'account', subject: after.name } as const;
  await logSetting(tx, { ...change, before: before && told(before), after: { ...told(after), ...also } }, setter);
}

/** Locks the administrators too, so that two of them cannot take the role from each other at once. */
async function lockAccount(tx: EntityManager, id: string): Promise<{ readonly role: Role }> {
  const rows = await tx.getRepository(PersonEntity).find({
    where: [{ id }, { role: 'administrator' }],
    order: { id: 'ASC' },
    lock: { mode: 'pessimistic_write' },
  });
  const own = rows.find((row) => row.id === id);
  if (!own) throw notFound('person');
  return own;
}

/** Locks all administrators, so that none of two is the last one that leaves. */
export const lockAdministrators = (tx: EntityManager): Promise<unknown> =>
  tx.getRepository(PersonEntity).find({
    where: { role: 'administrator' },
    order: { id: 'ASC' },
    lock: { mode: 'pessimistic_write' },
  });

export async function requireAdministrator(tx: EntityManager): Promise<void> {
  if (!(await tx.getRepository(PersonEntity).existsBy({ role: 'administrator', active: true })))
    throw invalid([{ pointer: '/role', detail: 'This is the only administrator. Make another one first.' }], 422);
}

async function readAccount(tx: EntityManager, id: string): Promise<Account> {
  const account = await findAccount(tx, id);
  if (!account) throw notFound('person');
  return account;
}
