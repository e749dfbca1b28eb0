import { allEndpoints, type Endpoint } from '@ladder/contract';
import fc from 'fast-check';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import type { Client } from '../testing/client.ts';
import { strangeBody } from '../testing/strangeBody.ts';
import { startTestServer, type TestServer } from '../testing/testServer.ts';

let test: TestServer;
let maren: Client;
let known: Readonly<Record<string, string>>;
beforeAll(async () => {
  test = await startTestServer();
  maren = await test.as('maren');
  const { body: deal } = await maren.post('/deals', { process: test.process, name: 'Deal', values: {} }, 201);
  const { body: customer } = await maren.post('/customers', { name: 'Customer', values: {} }, 201);
  const { body: contact } = await maren.post('/contacts', { customer: null, name: 'Contact', values: {} }, 201);
  const { body: team } = await maren.post('/teams', { name: 'Team' }, 201);
  const upload = await maren.post(`/imports?fileName=a.csv&process=${test.process}`, 'Name\r\nOne\r\n', 201);
  known = {
    process: test.process,
    deal: deal.id,
    customer: customer.id,
    contact: contact.id,
    team: team.id,
    person: '01900000-0000-7000-8000-000000020005',
    import: upload.body.import.id,
    field: 'area',
    number: '1',
  };
});
afterAll(() => test.stop());

const signingIn = ['signIn', 'signOut'];
const pathOf = (endpoint: Endpoint): string => endpoint.path.replace(/\{(\w+)\}/g, (_all, name) => known[name] ?? name);
const queryOf = (parameters: Readonly<Record<string, string>>): string => new URLSearchParams(parameters).toString();

/** Enough of a query for the endpoint to look at the rest. */
function requiredQuery({ query }: Endpoint): Record<string, string> {
  const required = (query?.json.required ?? []) as readonly string[];
  return Object.fromEntries(required.map((name) => [name, name === 'to' ? 'won' : (known[name] ?? 'x')]));
}

const STRANGE = [
  '',
  'x',
  '2026-02-30',
  '9999-99-99',
  '0000-00-00',
  '-1',
  '1e400',
  '99999999999999999999',
  '\u0000',
  "' or 1=1 --",
  '%',
  'W10',
  'WyIyMDI2LTAyLTMwIiwieCIsInkiXQ',
  'é'.repeat(600),
];

describe('a strange query', () => {
  const asking = allEndpoints.filter(({ query, method }) => query && method === 'get');

  it.each(asking.map((endpoint) => [endpoint.id, endpoint] as const))(
    'of %s is answered, never an error of ours',
    async (_id, endpoint) => {
      const names = Object.keys((endpoint.query?.json.properties ?? {}) as object);
      for (const name of names)
        for (const value of STRANGE) {
          const parameters = { ...requiredQuery(endpoint), [name]: value };
          const { status, body } = await maren.send('GET', `${pathOf(endpoint)}?${queryOf(parameters)}`, undefined, 0);
          expect([name, value, status < 500 ? 'told' : body]).toEqual([name, value, 'told']);
        }
    },
  );
});

describe('a strange path', () => {
  it.each(
    allEndpoints
      .filter(({ path, id }) => path.includes('{') && !signingIn.includes(id))
      .map((endpoint) => [endpoint.id, endpoint] as const),
  )('of %s is not found', async (_id, endpoint) => {
    for (const value of ['x', '%00', '00000000-0000-4000-8000-000000000000', '1e9', '-1', "'"]) {
      const path = endpoint.path.replace(/\{(\w+)\}/g, encodeURIComponent(value));
      const body = endpoint.method === 'get' || endpoint.method === 'delete' ? undefined : {};
      const { status } = await maren.send(endpoint.method.toUpperCase(), path, body, 0);
      expect([value, status]).toEqual([value, expect.toSatisfy((told: number) => told >= 200 && told < 500)]);
    }
  });
});

describe('a strange body', () => {
  const taking = allEndpoints.filter(({ body, id }) => body && !signingIn.includes(id));

  it.each(taking.map((endpoint) => [endpoint.id, endpoint] as const))(
    'of %s is told what is wrong with it',
    async (_id, endpoint) => {
      await fc.assert(
        fc.asyncProperty(strangeBody(endpoint.body?.json ?? {}, Object.values(known)), async (body) => {
          const query = queryOf(requiredQuery(endpoint));
          const answer = await maren.send(
            endpoint.method.toUpperCase(),
            `${pathOf(endpoint)}${query ? `?${query}` : ''}`,
            body,
            0,
            endpoint.headers?.includes('If-Match') ? { 'If-Match': '"1"' } : {},
          );
          expect(answer.status, JSON.stringify(answer.body)).toBeLessThan(500);
        }),
        { numRuns: 40, seed: 7 },
      );
    },
  );
});
