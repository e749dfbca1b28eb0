import { randomBytes } from 'node:crypto';
import { DEMO_PASSWORD, type people, type TypeOf } from '@ladder/contract';
import { foldText, localDay } from '@ladder/core';
import { hash, verify } from '@node-rs/argon2';
import { Not } from 'typeorm';
import { type Context, inCommand } from '../context.ts';
import { PersonEntity } from '../db/entities/person.ts';
import { SessionEntity } from '../db/entities/session.ts';
import { at } from '../db/sql.ts';
import { invalid, Problem } from '../problems/problem.ts';
import { findSession, hashToken, type Person } from './person.ts';
import { organisation, peopleByRole } from './repository.ts';
import { countTry, forgetTries } from './signInTries.ts';

const SESSION_MS = 14 * 24 * 3_600_000;
/** A hash that no password has, so that an unknown address takes as long as a wrong password. */
const NO_HASH = '$argon2id$v=19$m=19456,t=2,p=1$c29tZXNhbHRzb21lc2FsdA$Jm1vcmUgYnl0ZXMgdGhhdCBtYXRjaCBub3RoaW5nIQ';

export interface SignedIn {
  readonly token: string;
  readonly expiresAt: number;
  readonly session: TypeOf<typeof people.session>;
}

/** Signs a person in. Each try counts before the password is looked at; after too many an address or a mailbox has to wait. */
export async function signIn(context: Context, email: string, password: string, address: string): Promise<SignedIn> {
  const now = context.clock.now();
  const emailFold = foldText(email);
  await countTry(context, emailFold, address, now);
  const person = await context.dataSource.getRepository(PersonEntity).findOneBy({ emailFold, active: true });
  const right = await verify(person?.passwordHash ?? NO_HASH, password).catch(() => false);
  if (!person || !right)
    throw new Problem(401, 'The e-mail address or the password is not right.', {
      errors: [{ pointer: '/password', detail: 'The e-mail address or the password is not right.' }],
    });
  await forgetTries(context, emailFold, address);
  return beginSession(context, person.id, now);
}

/** Changes one's own password, and ends every other session of one's own. */
export async function changeOwnPassword(
  context: Context,
  person: Person,
  token: string | null,
  { present, next }: TypeOf<typeof people.ownPassword>,
  address: string,
): Promise<void> {
  const row = await context.dataSource.getRepository(PersonEntity).findOneByOrFail({ id: person.id });
  await countTry(context, row.emailFold, address, context.clock.now());
  if (!(await verify(row.passwordHash, present).catch(() => false)))
    throw invalid([{ pointer: '/present', detail: 'This is not your present password.' }], 422);
  await forgetTries(context, row.emailFold, address);
  const passwordHash = await hash(next);
  await inCommand(context, async (tx) => {
    await tx.getRepository(PersonEntity).update({ id: person.id }, { passwordHash });
    await tx.getRepository(SessionEntity).delete({ personId: person.id, tokenHash: Not(hashToken(token ?? '')) });
  });
}

async function beginSession(context: Context, personId: string, now: number): Promise<SignedIn> {
  const token = randomBytes(32).toString('base64url');
  const expiresAt = now + SESSION_MS;
  await context.dataSource.getRepository(SessionEntity).insert({
    tokenHash: hashToken(token),
    personId,
    csrf: randomBytes(24).toString('base64url'),
    createdAt: at(now),
    usedAt: at(now),
    expiresAt: at(expiresAt),
  });
  return { token, expiresAt, session: await sessionOf(context, token) };
}

/** The session as the web application sees it; without a token, only the organisation. */
export async function sessionOf(context: Context, token: string | null): Promise<TypeOf<typeof people.session>> {
  const [session, { name, timeZone, currency }] = await Promise.all([
    findSession(context, token),
    organisation(context.dataSource),
  ]);
  const today = localDay(context.clock.now(), timeZone);
  return {
    person: session && plainPerson(session.person),
    csrf: session?.csrf ?? null,
    organisation: { name, timeZone, currency, today },
  };
}

const plainPerson = ({ id, name, role, teams }: Person) => ({ id, name, role, teams });

export async function signOut(context: Context, token: string | null): Promise<void> {
  if (token) await context.dataSource.getRepository(SessionEntity).delete({ tokenHash: hashToken(token) });
}

/** The demo company's people, offered only where the demo is loaded and the server is reached from this machine alone. */
export async function demoOffers(context: Context): Promise<TypeOf<typeof people.offers>> {
  const { demo } = await organisation(context.dataSource);
  if (!demo || context.reach !== 'loopback') return { available: false, people: [] };
  const rows = await peopleByRole(context.dataSource);
  return { available: true, people: rows.map((row) => ({ ...row, password: DEMO_PASSWORD })) };
}
