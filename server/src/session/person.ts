import { createHash, timingSafeEqual } from 'node:crypto';
import { type Role, SESSION_COOKIE, TOKEN_HEADER } from '@ladder/contract';
import { parse as parseCookies } from 'cookie';
import type { Request } from 'express';
import type { Context } from '../context.ts';
import { Problem } from '../problems/problem.ts';
import { noteUse, sessionByToken } from './repository.ts';

/** The person who asks. */
export interface Person {
  readonly id: string;
  readonly name: string;
  readonly role: Role;
  readonly teams: readonly string[];
  /** People who are away today and for whom this one stands in. */
  readonly standsInFor?: readonly string[];
  /** Processes that other teams alone see. */
  readonly hiddenProcesses?: readonly string[];
}

export const hashToken = (token: string): Buffer => createHash('sha256').update(token).digest();

/** The session's token as the browser sent it. */
export const sessionToken = (request: Request): string | null =>
  parseCookies(request.get('Cookie') ?? '')[SESSION_COOKIE] ?? null;

/** Who is signed in; anything but reading also needs the session's own token in a header, which no other site can send. */
export async function personOf(context: Context, request: Request): Promise<Person | null> {
  const session = await findSession(context, sessionToken(request));
  if (!session) return null;
  const reading = request.method === 'GET' || request.method === 'HEAD';
  if (!reading && !sameText(request.get(TOKEN_HEADER) ?? '', session.csrf))
    throw new Problem(403, 'This page is out of date. Load it again.');
  return session.person;
}

/** The session of a token that has not expired and was not left unused too long. */
export async function findSession(
  context: Context,
  token: string | null,
): Promise<{ person: Person; csrf: string } | null> {
  if (!token) return null;
  const now = context.clock.now();
  const row = await sessionByToken(context.dataSource, hashToken(token), now, context.sessionIdleMs);
  if (!row) return null;
  const { csrf, used, ...person } = row;
  if (now - used.getTime() > USED_STEP_MS) await noteUse(context.dataSource, hashToken(token), now);
  return { person, csrf };
}

/** A session's use is written down now and then, not with every request. */
const USED_STEP_MS = 60_000;

function sameText(a: string, b: string): boolean {
  const [left, right] = [hashToken(a), hashToken(b)];
  return timingSafeEqual(left, right);
}
