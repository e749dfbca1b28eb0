import { randomBytes } from 'node:crypto';
import type { people, Role, TypeOf } from '@ladder/contract';
import { foldText, localDay } from '@ladder/core';
import { verify } from '@node-rs/argon2';
import type { Context } from '../context.ts';
import { PersonEntity } from '../db/entities/person.ts';
import { SessionEntity } from '../db/entities/session.ts';
import { at, sql } from '../db/sql.ts';
import { Problem } from '../http/problem.ts';
import { organisation } from './organisation.ts';
import { findSession, hashToken } from './person.ts';

const SESSION_MS = 14 * 24 * 3_600_000;
const FAILURE_WINDOW_MS = 15 * 60_000;
const FAILURES_ALLOWED = 10;
const FAILURES_ALLOWED_PER_ADDRESS = 100;
/** A hash that no password has, so that an unknown address takes as long as a wrong password. */
const NO_HASH = '$argon2id$v=19$m=19456,t=2,p=1$c29tZXNhbHRzb21lc2FsdA$Jm1vcmUgYnl0ZXMgdGhhdCBtYXRjaCBub3RoaW5nIQ';

export interface SignedIn {
  readonly token: string;
  readonly expiresAt: number;
  readonly session: TypeOf<typeof people.session>;
}

/** Signs a person in. After too many failures an address or a mailbox has to wait. */
export async function signIn(context: Context, email: string, password: string, address: string): Promise<SignedIn> {
  const now = context.clock.now();
  const emailFold = foldText(email);
  await refuseIfTooMany(context, emailFold, address, now);
  const person = await context.dataSource.getRepository(PersonEntity).findOneBy({ emailFold, active: true });
  const right = await verify(person?.passwordHash ?? NO_HASH, password).catch(() => false);
  if (!person || !right) {
    await sql(context.dataSource, `insert into sign_in_failures values (:emailFold, :address, :now)`, {
      emailFold,
      address,
      now: at(now),
    });
    throw new Problem(401, 'The e-mail address or the password is not right.', {
      errors: [{ pointer: '/password', detail: 'The e-mail address or the password is not right.' }],
    });
  }
  await sql(context.dataSource, `delete from sign_in_failures where email_fold = :emailFold`, { emailFold });
  return beginSession(context, person.id, now);
}

async function refuseIfTooMany(context: Context, emailFold: string, address: string, now: number): Promise<void> {
  const [row] = await sql<{ for_email: number; for_address: number }>(
    context.dataSource,
    `select (select count(*)::int from sign_in_failures where email_fold = :emailFold and failed_at > :since) as for_email,
            (select count(*)::int from sign_in_failures where address = :address and failed_at > :since) as for_address`,
    { emailFold, address, since: at(now - FAILURE_WINDOW_MS) },
  );
  if ((row?.for_email ?? 0) >= FAILURES_ALLOWED || (row?.for_address ?? 0) >= FAILURES_ALLOWED_PER_ADDRESS) {
    throw new Problem(429, 'Too many tries. Wait a quarter of an hour, then try again.');
  }
}

async function beginSession(context: Context, personId: string, now: number): Promise<SignedIn> {
  const token = randomBytes(32).toString('base64url');
  const expiresAt = now + SESSION_MS;
  await sql(context.dataSource, `delete from sessions where expires_at <= :now`, { now: at(now) });
  await context.dataSource.getRepository(SessionEntity).insert({
    tokenHash: hashToken(token),
    personId,
    csrf: randomBytes(24).toString('base64url'),
    createdAt: at(now),
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
    person: session?.person ?? null,
    csrf: session?.csrf ?? null,
    organisation: { name, timeZone, currency, today },
  };
}

export async function signOut(context: Context, token: string | null): Promise<void> {
  if (token) await context.dataSource.getRepository(SessionEntity).delete({ tokenHash: hashToken(token) });
}

/** The password of every person of the demo company, which is loaded on a private database only. */
export const DEMO_PASSWORD = 'glasshouse';

/** The demo company's people, offered only where the demo is loaded and the server is reached from this machine alone. */
export async function demoOffers(context: Context): Promise<TypeOf<typeof people.offers>> {
  const { demo } = await organisation(context.dataSource);
  if (!demo || context.reach !== 'loopback') return { available: false, people: [] };
  const rows = await sql<{ name: string; role: Role; title: string; email: string }>(
    context.dataSource,
    `select name, role, title, email from people where active order by array_position(array['administrator', 'manager', 'seller', 'viewer'], role), name`,
  );
  return { available: true, people: rows.map((row) => ({ ...row, password: DEMO_PASSWORD })) };
}
