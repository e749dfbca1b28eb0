import { type Callers, type Endpoint, parse, type Schema } from '@ladder/contract';
import type { Request, Response, Router } from 'express';
import { seesProcess } from '../access/dealAccess.ts';
import type { Context } from '../context.ts';
import type { Connection } from '../db/sql.ts';
import { invalid, notFound, Problem } from '../problems/problem.ts';
import {
  AssumedSession,
  findSession,
  type Person,
  requireOwnPage,
  type Session,
  sessionToken,
} from '../session/person.ts';
import { atOnce } from './atOnce.ts';
import type { Reply } from './reply.ts';

/** A checked request. Endpoints that anyone may call have no person. */
export interface Input<Params, Query, Body> {
  readonly params: Params;
  readonly query: Query;
  readonly body: Body;
  readonly person: Person;
  readonly request: Request;
  readonly response: Response;
}

const NOBODY: Person = { id: '00000000-0000-0000-0000-000000000000', name: '', role: 'viewer', teams: [] };

type Handler<Params, Query, Body> = (input: Input<Params, Query, Body>) => Promise<Reply>;

/** Puts an endpoint of the contract on the router: who may call, what comes in, and how it is answered. */
export function register<Params, Query, Body, Answer>(
  router: Router,
  context: Context,
  endpoint: Endpoint<Params, Query, Body, Answer>,
  handle: Handler<Params, Query, Body>,
): void {
  route(router, endpoint, async (request, response) => {
    const person = await allowed(context, endpoint.callers, request);
    return answer(endpoint, person, request, response, handle);
  });
}

/** Looks at the session on the connection that the rest is asked on, before anything hangs on it. */
export type LookAtSession = (connection: Connection) => Promise<void>;

/** Where it was looked at before. */
export const LOOKED_AT: LookAtSession = async () => undefined;

/**
 * The same for what is asked again and again and is to wait for the database as seldom as can be: `handle` looks at the session
 * with the first that it asks, and nothing is answered or committed that was not of the session as it is.
 */
export function registerQuick<Params, Query, Body, Answer>(
  router: Router,
  context: Context,
  endpoint: Endpoint<Params, Query, Body, Answer>,
  handle: (input: Input<Params, Query, Body>, lookAtSession: LookAtSession) => Promise<Reply>,
): void {
  route(router, endpoint, async (request, response) => {
    const assumed = AssumedSession.of(context, request);
    try {
      if (assumed) {
        const person = permitted(endpoint.callers, assumed.session, request);
        const look: LookAtSession = (connection) => assumed.lookAt(connection);
        const result = await answer(endpoint, person, request, response, (input) => handle(input, look));
        if (await assumed.isSo()) return result;
      }
    } catch (error) {
      if (await assumed?.isSo()) throw error;
    }
    const person = await allowed(context, endpoint.callers, request);
    return answer(endpoint, person, request, response, (input) => handle(input, LOOKED_AT));
  });
}

function route<Params, Query, Body, Answer>(
  router: Router,
  endpoint: Endpoint<Params, Query, Body, Answer>,
  handle: (request: Request, response: Response) => Promise<Reply>,
): void {
  router[endpoint.method](endpoint.path.replace(/\{(\w+)\}/g, ':$1'), async (request, response) =>
    send(response, endpoint, await handle(request, response)),
  );
}

function answer<Params, Query, Body, Answer>(
  endpoint: Endpoint<Params, Query, Body, Answer>,
  person: Person,
  request: Request,
  response: Response,
  handle: Handler<Params, Query, Body>,
): Promise<Reply> {
  const input = {
    person,
    request,
    response,
    params: checked(endpoint.params, request.params, 'query', '/path'),
    query: checked(endpoint.query, request.query, 'query', '/query'),
    body: checked(endpoint.body, request.body, 'body', ''),
  };
  for (const part of [input.params, input.query, input.body]) requireProcessSeen(person, part);
  return atOnce(endpoint.heavy, person, () => handle(input));
}

/** Whatever names a process is answered to whoever sees it alone, as if there were none. */
function requireProcessSeen(person: Person, part: unknown): void {
  const named = typeof part === 'object' && part !== null && 'process' in part ? part.process : undefined;
  if (typeof named === 'string' && !seesProcess(person, named)) throw notFound('process');
}

async function allowed(context: Context, callers: Callers, request: Request): Promise<Person> {
  if (callers === 'anyone') return NOBODY;
  const session = await findSession(context, sessionToken(request));
  if (!session) throw new Problem(401, 'Sign in to go on.');
  return permitted(callers, session, request);
}

function permitted(callers: Callers, session: Session, request: Request): Person {
  requireOwnPage(request, session);
  const { person } = session;
  if (callers !== 'anyone' && callers !== 'signed_in' && !callers.includes(person.role))
    throw new Problem(403, `A ${person.role} may not do this.`);
  return person;
}

function checked<T>(schema: Schema<T> | undefined, value: unknown, source: 'body' | 'query', above: string): T {
  if (!schema) return undefined as T;
  const result = parse(schema, value ?? {}, source);
  if (result.ok) return result.value;
  throw invalid(result.problems.map(({ pointer, detail }) => ({ pointer: `${above}${pointer}`, detail })));
}

function send(response: Response, endpoint: Pick<Endpoint, 'status'>, { body, written, status, headers }: Reply): void {
  if (response.headersSent) return;
  response.status(status ?? endpoint.status).set(headers ?? {});
  if (body === undefined) response.end();
  else if ((status ?? endpoint.status) >= 400) response.type('application/problem+json').send(JSON.stringify(body));
  else response.type('application/json').send(written ?? JSON.stringify(body));
}
