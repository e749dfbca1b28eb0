import { createHash, timingSafeEqual } from 'node:crypto';
import { type Role, SESSION_COOKIE, TOKEN_HEADER } from '@ladder/contract';
import { parse as parseCookies } from 'cookie';
import type { Request } from 'express';
import type { Context } from '../context.ts';
import { KeptBySource } from '../db/keptBySource.ts';
import type { Connection } from '../db/sql.ts';
import { Problem } from '../problems/problem.ts';
import { noteUse, type SessionRow, sessionByToken } from './repository.ts';

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

/** Who is signed in, and the token of their own pages. */
export interface Session {
  readonly person: Person;
  readonly csrf: string;
}

/** Throws where anything but reading comes without the session's own token in a header, which no other site can send. */
export function requireOwnPage(request: Request, { csrf }: Session): void {
  const reading = request.method === 'GET' || request.method === 'HEAD';
  if (!reading && !sameText(request.get(TOKEN_HEADER) ?? '', csrf))
    throw new Problem(403, 'This page is out of date. Load it again.');
}

/** The session of a token that has not expired and was not left unused too long. */
export async function findSession(context: Context, token: string | null): Promise<Session | null> {
  if (!token) return null;
  const hash = hashToken(token);
  const now = context.clock.now();
  const row = await sessionByToken(context.dataSource, hash, now, context.sessionIdleMs);
  if (row && isUseOld(row, now)) await noteUse(context.dataSource, hash, now);
  if (row) readLast.keep(context.dataSource, keyOf(hash), row);
  return row && toSession(row);
}

/** A session's use is written down now and then, not with every request. */
const USED_STEP_MS = 60_000;

const isUseOld = ({ used }: SessionRow, now: number): boolean => now - used.getTime() > USED_STEP_MS;

function toSession({ csrf, used: _used, ...person }: SessionRow): Session {
  return { person, csrf };
}

function sameText(a: string, b: string): boolean {
  const [left, right] = [hashToken(a), hashToken(b)];
  return timingSafeEqual(left, right);
}

/** Sessions as they were read last, by what their tokens are known by. */
const readLast = new KeptBySource<string, SessionRow>(2_000);
const keyOf = (hash: Buffer): string => hash.toString('base64');

/**
 * A session taken to be as it was read last, so that what is asked for it need not wait until it is read: whoever answers by it
 * looks at it on the way, with the rest of what is asked of the database.
 */
export class AssumedSession {
  readonly session: Session;
  private found: 'not_yet' | 'the_same' | 'another' = 'not_yet';

  private constructor(
    private readonly context: Context,
    private readonly hash: Buffer,
    private readonly row: SessionRow,
  ) {
    this.session = toSession(row);
  }

  /** Of a request whose session was read before; null where it has to be read first. */
  static of(context: Context, request: Request): AssumedSession | null {
    const token = sessionToken(request);
    if (!token) return null;
    const hash = hashToken(token);
    const row = readLast.get(context.dataSource, keyOf(hash));
    return row ? new AssumedSession(context, hash, row) : null;
  }

  /** Reads it on a connection, with what is asked there behind it, and throws where it is another by now. */
  async lookAt(connection: Connection): Promise<void> {
    const now = this.context.clock.now();
    const row = await sessionByToken(connection, this.hash, now, this.context.sessionIdleMs);
    this.found = row && sessionText(row) === sessionText(this.row) ? 'the_same' : 'another';
    if (row && isUseOld(row, now)) this.noteUse(now);
    if (this.found === 'another') throw new Error('The session is another than it was taken to be');
  }

  /** Whether what was thrown or answered was of the session as it is. */
  async isSo(): Promise<boolean> {
    if (this.found === 'not_yet') await this.lookAt(this.context.dataSource).catch(() => undefined);
    return this.found === 'the_same';
  }

  /** Nobody waits for it, least of all while a deal is locked. */
  private noteUse(now: number): void {
    noteUse(this.context.dataSource, this.hash, now).catch((err: unknown) =>
      this.context.log.warn({ err }, 'the use of a session was not noted'),
    );
  }
}

/** All of it but when it was used. */
const sessionText = ({ used: _used, ...row }: SessionRow): string => JSON.stringify(row);
