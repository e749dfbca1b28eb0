import type { Endpoint, people, problem, TypeOf } from '@ladder/contract';
import { createApi, fetchBaseQuery } from '@reduxjs/toolkit/query/react';
import { keyOfPress, pressAnswered } from './pressKeys.ts';
import { sessionEnded } from './sessionSlice.ts';

type ProblemDocument = TypeOf<typeof problem>;
export type Session = TypeOf<typeof people.session>;

/** What an endpoint of the contract answers with, takes as its body, and as its query. */
export type AnswerOf<E> = E extends Endpoint<infer _Params, infer _Query, infer _Body, infer Answer> ? Answer : never;
export type BodyOf<E> = E extends Endpoint<infer _Params, infer _Query, infer Body, infer _Answer> ? Body : never;

const TOKEN_HEADER = 'X-Ladder-Token';
let token: string | null = null;

/** The session's own token, without which the server takes no change. */
export function rememberToken(csrf: string | null): void {
  token = csrf;
}

/** What tells the server that a request is of this session's pages. */
export const sessionHeaders = (): Readonly<Record<string, string>> => (token ? { [TOKEN_HEADER]: token } : {});

const ask = fetchBaseQuery({
  baseUrl: '/api/v1',
  prepareHeaders: (headers) => {
    if (token) headers.set(TOKEN_HEADER, token);
    return headers;
  },
});

/** Asks the server, and notes where it no longer knows who asks; signing in itself aside. */
const askSignedIn: typeof ask = async (request, context, options) => {
  const answer = await askPatiently(request, context, options);
  const isSigningIn = (typeof request === 'string' ? request : request.url) === '/session';
  if (answer.error?.status === 401 && !isSigningIn) context.dispatch(sessionEnded());
  return answer;
};

const MOST_WAITS = 3;

/** What only reads is asked for again where the server says that it is worth it in a moment. */
const askPatiently: typeof ask = async (request, context, options) => {
  const isReading = typeof request === 'string' || (request.method ?? 'GET') === 'GET';
  for (let waits = 0; ; waits++) {
    const answer = await askKeyed(request, context, options);
    const pause = Number(answer.meta?.response?.headers.get('Retry-After') ?? Number.NaN);
    const isBusy = answer.error?.status === 429 || answer.error?.status === 503;
    if (!isReading || !isBusy || !(pause <= 5) || waits >= MOST_WAITS) return answer;
    await new Promise((resolve) => setTimeout(resolve, pause * 1_000));
  }
};

/** Sends a request marked as one press with its key; it keeps the key until it is answered for good. */
const askKeyed: typeof ask = async (request, context, options) => {
  if (typeof request === 'string' || !isPress(request.headers)) return ask(request, context, options);
  const press = JSON.stringify([request.method, request.url, bodyOf(request.body)]);
  const { 'X-Press': _mark, ...own } = request.headers as Record<string, string>;
  const headers = { ...own, 'Idempotency-Key': keyOfPress(press, Date.now()) };
  const answer = await ask({ ...request, headers }, context, options);
  const status = answer.error?.status;
  const isAnswered = status === undefined || (typeof status === 'number' && status < 500);
  if (isAnswered) pressAnswered(press);
  return answer;
};

/** What tells one body from another; a file is not read for it. */
const bodyOf = (body: unknown): unknown =>
  body instanceof File ? [body.name, body.size, body.lastModified] : (body ?? null);

/** Marks a request as one press of someone's: repeated after its answer was lost, it is done once. */
export const PRESS = { 'X-Press': 'one' } as const;

/** Marks a long command that is answered as soon as it has begun (RFC 7240). */
export const AT_ONCE = { Prefer: 'respond-async' } as const;

const isPress = (headers: unknown): boolean => typeof headers === 'object' && headers !== null && 'X-Press' in headers;

/** What is fetched again where it may have changed. */
export const TAGS = [
  'Session',
  'Process',
  'Draft',
  'Dismissals',
  'Deal',
  'Deals',
  'Journal',
  'Fields',
  'FieldUses',
  'Calendars',
  'Import',
  'Party',
  'People',
  'Rates',
  'Work',
  'Today',
  'Feed',
  'Bell',
  'Watchers',
  'Templates',
  'Messages',
] as const;

/** Everything the server tells; features add their endpoints. */
export const api = createApi({
  reducerPath: 'api',
  baseQuery: askSignedIn,
  tagTypes: TAGS,
  endpoints: () => ({}),
});

/** A failed request as a problem document; what is none, such as a lost connection, is told in the same shape. */
export function problemOf(error: unknown): ProblemDocument | null {
  if (!error || typeof error !== 'object') return null;
  const data = 'data' in error ? error.data : null;
  if (data && typeof data === 'object' && 'status' in data && 'title' in data) return data as ProblemDocument;
  return {
    type: 'about:blank',
    title: 'No answer',
    status: 503,
    detail: 'The server did not answer. Check that it runs, then try again.',
  };
}

/** What is wrong at one place of a request, if anything. */
export const problemAt = (problem: ProblemDocument | null, pointer: string): string | undefined =>
  problem?.errors?.find((error) => error.pointer === pointer)?.detail;

/** A query string without what is not set. */
export function queryString(parameters: Readonly<Record<string, string | number | null | undefined>>): string {
  const entries = Object.entries(parameters).filter(
    (entry): entry is [string, string | number] => entry[1] !== undefined && entry[1] !== null && entry[1] !== '',
  );
  return entries.length === 0 ? '' : `?${new URLSearchParams(entries.map(([name, value]) => [name, String(value)]))}`;
}
