import type { Endpoint } from './endpoint.ts';
import { allEndpoints } from './endpoints/index.ts';
import { problem } from './problem.ts';
import { type JsonSchema, namedSchemas, type Schema } from './schema.ts';
import { work } from './work.ts';

/** The API as an OpenAPI 3.1 document, made from the same schemas that check requests. */
export function openApiDocument(version: string): JsonSchema {
  const paths: Record<string, Record<string, unknown>> = {};
  for (const endpoint of allEndpoints)
    paths[endpoint.path] = { ...paths[endpoint.path], [endpoint.method]: operation(endpoint) };
  return {
    openapi: '3.1.0',
    info: {
      title: 'Dusty Ladder',
      version,
      description: 'Design sales processes, work deals through them, and see how they comply and move.',
    },
    servers: [{ url: '/api/v1' }],
    paths,
    components: {
      schemas: Object.fromEntries([...namedSchemas].map(([name, { json }]) => [name, json])),
      securitySchemes: SECURITY_SCHEMES,
    },
  };
}

/** The names under which requests carry who asks. */
export const SESSION_COOKIE = 'ladder_session';
export const TOKEN_HEADER = 'X-Ladder-Token';

const SECURITY_SCHEMES = {
  session: {
    type: 'apiKey',
    in: 'cookie',
    name: SESSION_COOKIE,
    description: 'Set by signing in (`POST /session`); HttpOnly, SameSite=Strict.',
  },
  token: {
    type: 'apiKey',
    in: 'header',
    name: TOKEN_HEADER,
    description: 'The `csrf` value of the session, beside the cookie, on every request that changes something.',
  },
};

/** Reading needs the session; changing needs the session and its token; some may be called by anyone. */
function security({ callers, method }: Endpoint): JsonSchema {
  if (callers === 'anyone') return { security: [] };
  return { security: [method === 'get' ? { session: [] } : { session: [], token: [] }] };
}

/** Problems that follow from what an endpoint is, and those that it names. */
function problemsOf({ callers, method, headers = [], problems = [] }: Endpoint): readonly number[] {
  const all = [
    400,
    ...(callers === 'anyone' ? [] : [401, 403]),
    ...(method === 'get' ? [] : [413, 415]),
    ...(headers.includes('Idempotency-Key') ? [422] : []),
    ...problems,
    429,
    500,
    503,
  ];
  return [...new Set(all)].sort((a, b) => a - b);
}

function operation(endpoint: Endpoint): JsonSchema {
  return {
    operationId: endpoint.id,
    summary: endpoint.summary,
    ...security(endpoint),
    ...(typeof endpoint.callers === 'string' ? {} : { description: `For: ${endpoint.callers.join(', ')}.` }),
    parameters: [...parameters('path', endpoint.params), ...parameters('query', endpoint.query), ...headers(endpoint)],
    ...requestBody(endpoint),
    responses: {
      [endpoint.status]: success(endpoint),
      ...(endpoint.long ? { 202: UNDER_WAY } : {}),
      ...Object.fromEntries(
        problemsOf(endpoint).map((status) => [
          status,
          { description: 'Problem', content: { 'application/problem+json': { schema: problem.json } } },
        ]),
      ),
    },
  };
}

function parameters(place: 'path' | 'query', schema: Schema<unknown> | undefined): readonly JsonSchema[] {
  const properties = (schema?.json.properties ?? {}) as Record<string, JsonSchema>;
  const required = (schema?.json.required ?? []) as readonly string[];
  return Object.entries(properties).map(([name, json]) => ({
    name,
    in: place,
    required: place === 'path' || required.includes(name),
    schema: json,
  }));
}

const HEADERS = {
  'If-Match': {
    required: true,
    description: 'The ETag of the draft that was edited: its revision in quotes.',
    schema: { type: 'string', pattern: '^"\\d{1,10}"$', examples: ['"7"'] },
  },
  'Idempotency-Key': {
    required: false,
    description: 'Anything of one’s own: a repeat within 24 hours gets the first answer and does nothing twice.',
    schema: { type: 'string', minLength: 1, maxLength: 200 },
  },
} as const;

/** Answer at once, not when the work has ended (RFC 7240, section 4.1). */
export const RESPOND_ASYNC = 'respond-async';
const PREFER = {
  name: 'Prefer',
  in: 'header',
  required: false,
  description: 'With `respond-async` the answer comes at once, and says how far the work is (RFC 7240).',
  schema: { type: 'string', maxLength: 200 },
};
const UNDER_WAY = {
  description: 'The work is under way; read on at `/work/{work}`.',
  content: { 'application/json': { schema: work.view.json } },
};

const headers = (endpoint: Endpoint): readonly JsonSchema[] => [
  ...(endpoint.headers ?? []).map((name) => ({ name, in: 'header', ...HEADERS[name] })),
  ...(endpoint.long ? [PREFER] : []),
];

const answerHeaders = ({ answerHeaders: names }: Endpoint): JsonSchema =>
  names
    ? {
        headers: {
          ETag: { description: 'The draft’s revision in quotes, for If-Match.', schema: HEADERS['If-Match'].schema },
        },
      }
    : {};

function requestBody(endpoint: Endpoint): JsonSchema {
  if (endpoint.upload)
    return { requestBody: { required: true, content: { [endpoint.upload]: { schema: { type: 'string' } } } } };
  return endpoint.body
    ? { requestBody: { required: true, content: { 'application/json': { schema: endpoint.body.json } } } }
    : {};
}

function success(endpoint: Endpoint): JsonSchema {
  const description = endpoint.summary;
  if (endpoint.download) return { description, content: { [endpoint.download]: { schema: { type: 'string' } } } };
  return endpoint.answer
    ? { description, ...answerHeaders(endpoint), content: { 'application/json': { schema: endpoint.answer.json } } }
    : { description };
}
