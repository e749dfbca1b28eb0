import type { Endpoint } from './endpoint.ts';
import { allEndpoints } from './endpoints/index.ts';
import { problem } from './problem.ts';
import { type JsonSchema, namedSchemas, type Schema } from './schema.ts';

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
    components: { schemas: Object.fromEntries([...namedSchemas].map(([name, { json }]) => [name, json])) },
  };
}

function operation(endpoint: Endpoint): JsonSchema {
  const problems = [400, ...(endpoint.callers === 'anyone' ? [] : [401, 403]), ...(endpoint.problems ?? []), 500];
  return {
    operationId: endpoint.id,
    summary: endpoint.summary,
    ...(typeof endpoint.callers === 'string' ? {} : { description: `For: ${endpoint.callers.join(', ')}.` }),
    parameters: [...parameters('path', endpoint.params), ...parameters('query', endpoint.query), ...headers(endpoint)],
    ...requestBody(endpoint),
    responses: {
      [endpoint.status]: success(endpoint),
      ...Object.fromEntries(
        problems.map((status) => [
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

const headers = (endpoint: Endpoint): readonly JsonSchema[] =>
  (endpoint.headers ?? []).map((name) => ({
    name,
    in: 'header',
    required: name === 'If-Match',
    schema: { type: 'string' },
  }));

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
    ? { description, content: { 'application/json': { schema: endpoint.answer.json } } }
    : { description };
}
