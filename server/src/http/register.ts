import { type Callers, type Endpoint, parse, type Schema } from '@ladder/contract';
import type { Request, Response, Router } from 'express';
import { seesProcess } from '../access/dealAccess.ts';
import type { Context } from '../context.ts';
import { invalid, notFound, Problem } from '../problems/problem.ts';
import { type Person, personOf } from '../session/person.ts';
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

/** Puts an endpoint of the contract on the router: who may call, what comes in, and how it is answered. */
export function register<Params, Query, Body, Answer>(
  router: Router,
  context: Context,
  endpoint: Endpoint<Params, Query, Body, Answer>,
  handle: (input: Input<Params, Query, Body>) => Promise<Reply>,
): void {
  router[endpoint.method](endpoint.path.replace(/\{(\w+)\}/g, ':$1'), async (request, response) => {
    const person = await allowed(context, endpoint.callers, request);
    const input = {
      person,
      request,
      response,
      params: checked(endpoint.params, request.params, 'query', '/path'),
      query: checked(endpoint.query, request.query, 'query', '/query'),
      body: checked(endpoint.body, request.body, 'body', ''),
    };
    for (const part of [input.params, input.query, input.body]) requireProcessSeen(person, part);
    const result = await atOnce(endpoint.heavy, person, () => handle(input));
    send(response, endpoint, result);
  });
}

/** Whatever names a process is answered to whoever sees it alone, as if there were none. */
function requireProcessSeen(person: Person, part: unknown): void {
  const named = typeof part === 'object' && part !== null && 'process' in part ? part.process : undefined;
  if (typeof named === 'string' && !seesProcess(person, named)) throw notFound('process');
}

async function allowed(context: Context, callers: Callers, request: Request): Promise<Person> {
  if (callers === 'anyone') return NOBODY;
  const person = await personOf(context, request);
  if (!person) throw new Problem(401, 'Sign in to go on.');
  if (callers !== 'signed_in' && !callers.includes(person.role))
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
