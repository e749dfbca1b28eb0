import { allEndpoints, type Endpoint, ROLES } from '@ladder/contract';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { Client } from '../testing/client.ts';
import { DAY, MINUTE } from '../testing/movableClock.ts';
import { PASSWORD, PEOPLE, startTestServer, type TestServer } from '../testing/testServer.ts';

let test: TestServer;
beforeAll(async () => {
  test = await startTestServer();
});
afterAll(() => test.stop());

const anyone = () => Client.anonymous(test.server.url);

describe('the server', () => {
  it('tells its version and that the database is up', async () => {
    const { body } = await anyone().get('/health');
    expect(body).toMatchObject({ database: 'up', migration: expect.stringMatching(/\d{13}$/) });
  });

  it('serves the OpenAPI document with every endpoint of the contract', async () => {
    const { body } = await anyone().get('/openapi.json');
    expect(body.openapi).toBe('3.1.0');
    for (const { path, method } of allEndpoints) expect(body.paths[path]).toHaveProperty(method);
  });

  it('answers a strange address, a body that is no JSON and an unknown field with problem documents (RFC 9457)', async () => {
    const answer = await fetch(`${test.server.url}/api/v1/nowhere`);
    expect(answer.headers.get('Content-Type')).toContain('application/problem+json');
    expect(await answer.json()).toMatchObject({
      type: 'about:blank',
      status: 404,
      title: expect.any(String),
      detail: expect.any(String),
    });
    const broken = await fetch(`${test.server.url}/api/v1/session`, {
      method: 'POST',
      headers: { 'Content-Type': 'application/json' },
      body: '{"email":',
    });
    expect(broken.status).toBe(400);
    const { body } = await anyone().send('POST', '/session', { email: 'nobody', password: 'x', extra: 1 }, 400);
    expect(body.errors.map(({ pointer }: { pointer: string }) => pointer).sort()).toEqual(['/email', '/extra']);
  });

  it('says no more of a broken page mark than what to do', async () => {
    const { body } = await (await test.as('maren')).get('/deals?after=xx', 400);
    expect(body.errors[0].pointer).toBe('/query/after');
  });
});

describe('signing in', () => {
  it('takes the right password only, and offers no demo people where no demo is loaded', async () => {
    const wrong = await anyone().send('POST', '/session', { email: 'maren@test.example', password: 'wrong' }, 401);
    const unknown = await anyone().send('POST', '/session', { email: 'who@test.example', password: 'wrong' }, 401);
    expect(wrong.body).toEqual(unknown.body);
    expect((await anyone().get('/session/offers')).body).toEqual({ available: false, people: [] });
  });

  it('keeps the session in a cookie that scripts cannot read, and ends it', async () => {
    const answer = await anyone().send('POST', '/session', { email: 'LENA@test.example', password: PASSWORD }, 200);
    expect(answer.headers.get('Set-Cookie')).toMatch(/HttpOnly.*SameSite=Strict/);
    const client = await Client.signIn(test.server.url, 'lena@test.example', PASSWORD);
    await client.send('DELETE', '/session', undefined, 204);
    await client.get('/processes', 401);
  });

  it('expires', async () => {
    const client = await Client.signIn(test.server.url, 'lena@test.example', PASSWORD);
    const now = test.clock.now();
    test.clock.pass(14 * DAY);
    await client.get('/processes', 401);
    test.clock.set(now);
    await client.get('/processes', 200);
  });

  it('refuses a change without the session’s own token', async () => {
    const response = await fetch(`${test.server.url}/api/v1/session`, {
      method: 'POST',
      headers: { 'Content-Type': 'application/json' },
      body: JSON.stringify({ email: 'maren@test.example', password: PASSWORD }),
    });
    const cookie = response.headers.get('Set-Cookie')?.split(';')[0] ?? '';
    const forged = await fetch(`${test.server.url}/api/v1/teams`, {
      method: 'POST',
      headers: { Cookie: cookie, 'Content-Type': 'application/json' },
      body: '{"name":"x"}',
    });
    expect(forged.status).toBe(403);
  });

  it('waits after ten failures, and no longer than a quarter of an hour', async () => {
    const attempt = (password: string) => anyone().send('POST', '/session', { email: 'bea@test.example', password }, 0);
    for (let tries = 0; tries < 10; tries++) expect((await attempt('wrong')).status).toBe(401);
    expect((await attempt(PASSWORD)).status).toBe(429);
    test.clock.pass(15 * MINUTE + 1);
    expect((await attempt(PASSWORD)).status).toBe(200);
  });
});

/* Every endpoint asked by everyone: who is not among its callers is refused before anything else is looked at. */
describe('who may call what', () => {
  const NOWHERE = '00000000-0000-4000-8000-000000000000';
  const pathOf = ({ path, query }: Endpoint): string => {
    const filled = path
      .replace('{number}', '1')
      .replace('{field}', 'nothing')
      .replace(/\{\w+\}/g, NOWHERE);
    const required = (query?.json.required ?? []) as readonly string[];
    return required.length === 0
      ? filled
      : `${filled}?${required.map((name) => `${name}=${name === 'to' ? 'won' : NOWHERE}`).join('&')}`;
  };
  const guarded = allEndpoints.filter(({ callers, id }) => callers !== 'anyone' && id !== 'signOut');

  it.each(guarded.map((endpoint) => [endpoint.id, endpoint] as const))('%s', async (_id, endpoint) => {
    const call = async (client: Client) =>
      (
        await client.send(
          endpoint.method.toUpperCase(),
          pathOf(endpoint),
          endpoint.method === 'get' ? undefined : {},
          0,
        )
      ).status;
    expect(await call(anyone())).toBe(401);
    for (const role of ROLES) {
      const name = Object.keys(PEOPLE).find((person) => PEOPLE[person]?.role === role && person !== 'bea') ?? '';
      const status = await call(await test.as(name));
      const allowed = typeof endpoint.callers === 'string' || endpoint.callers.includes(role);
      if (allowed) expect(status).not.toBe(403);
      else expect(status).toBe(403);
      expect(status).toBeLessThan(500);
    }
  });
});
