import { createHash, timingSafeEqual } from 'node:crypto';
import type { Role } from '@ladder/contract';
import { parse as parseCookies } from 'cookie';
import type { Request } from 'express';
import type { Context } from '../context.ts';
import { at, sql } from '../db/sql.ts';
import { Problem } from '../http/problem.ts';

/** The person who asks. */
export interface Person {
  readonly id: string;
  readonly name: string;
  readonly role: Role;
  readonly teams: readonly string[];
}

export const SESSION_COOKIE = 'ladder_session';
export const CSRF_HEADER = 'X-Ladder-Token';

export const hashToken = (token: string): Buffer => createHash('sha256').update(token).digest();

/** The session's token as the browser sent it. */
export const sessionToken = (request: Request): string | null =>
  parseCookies(request.get('Cookie') ?? '')[SESSION_COOKIE] ?? null;

/** Who is signed in; anything but reading also needs the session's own token in a header, which no other site can send. */
export async function personOf(context: Context, request: Request): Promise<Person | null> {
  const session = await findSession(context, sessionToken(request));
  if (!session) return null;
  const reading = request.method === 'GET' || request.method === 'HEAD';
  if (!reading && !sameText(request.get(CSRF_HEADER) ?? '', session.csrf))
    throw new Problem(403, 'This page is out of date. Load it again.');
  return session.person;
}

interface SessionRow {
  readonly id: string;
  readonly name: string;
  readonly role: Role;
  readonly csrf: string;
  readonly teams: readonly string[];
}

/** The session of a token that has not expired. */
export async function findSession(
  context: Context,
  token: string | null,
): Promise<{ person: Person; csrf: string } | null> {
  if (!token) return null;
  const [row] = await sql<SessionRow>(
    context.dataSource,
    `select p.id, p.name, p.role, s.csrf, array(select team_id::text from team_members where person_id = p.id order by 1) as teams
     from sessions s join people p on p.id = s.person_id
     where s.token_hash = :hash and s.expires_at > :now and p.active`,
    { hash: hashToken(token), now: at(context.clock.now()) },
  );
  if (!row) return null;
  const { csrf, ...person } = row;
  return { person, csrf };
}

function sameText(a: string, b: string): boolean {
  const [left, right] = [hashToken(a), hashToken(b)];
  return timingSafeEqual(left, right);
}
