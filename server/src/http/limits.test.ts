import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { startServer } from '../server.ts';
import { Client } from '../testing/client.ts';
import { DAY, MINUTE } from '../testing/movableClock.ts';
import { asOwner } from '../testing/testDatabase.ts';
import { PASSWORD, PEOPLE, startTestServer, type TestServer, THREADS, testConfig } from '../testing/testServer.ts';

/* What one person sends keeps nobody else waiting, and what is wrong with it is never an error of ours. */

let test: TestServer;
let maren: Client;
beforeAll(async () => {
  test = await startTestServer();
  maren = await test.as('maren');
});
afterAll(() => test.stop());

const anyone = () => Client.anonymous(test.server.url);
const raw = (path: string, init: RequestInit = {}) => fetch(`${test.server.url}/api/v1${path}`, init);

/** A page mark that nobody was given. */
const made = (parts: readonly unknown[]): string => Buffer.from(JSON.stringify(parts)).toString('base64url');

describe('a body out of all proportion', () => {
  it('of many unknown keys is told a few of them', async () => {
    const keys = (count: number) =>
      Object.fromEntries(Array.from({ length: count }, (_none, place) => [`k${place}`, 1]));
    const some = await anyone().send('POST', '/session', { email: 'a@b.c', password: 'x', ...keys(100) }, 400);
    expect(some.body.errors).toHaveLength(20);
    const many = await anyone().send('POST', '/session', { email: 'a@b.c', password: 'x', ...keys(180_000) }, 0);
    expect([400, 413]).toContain(many.status);
    expect(JSON.stringify(many.body).length).toBeLessThan(1_000);
  });

  it('of many wrong parts is told the first', async () => {
    const { body: deal } = await maren.post('/deals', { process: test.process, name: 'Deal', values: {} }, 201);
    const changes = Array.from({ length: 30_000 }, () => ({ field: '', saw: 1, value: [{}] }));
    const { body } = await maren.patch(`/deals/${deal.id}`, { changes }, 400);
    expect(body.errors.length).toBeLessThanOrEqual(20);
  });

  it('nested without end is told so', async () => {
    const deep = `${'{"kind":"not","of":'.repeat(30_000)}1${'}'.repeat(30_000)}`;
    const answer = await raw(`/processes/${test.process}/draft`, {
      method: 'PUT',
      headers: { ...maren.headers, 'Content-Type': 'application/json', 'If-Match': '"1"' },
      body: `{"document":${deep}}`,
    });
    expect(answer.status).toBe(400);
    expect(((await answer.json()) as { detail: string }).detail).toMatch(/nested more than 100 levels/);
  });
});

describe('what cannot be read', () => {
  it.each([
    ['a % without digits in a path', '/deals/%E0%A4%A', {}, 400],
    [
      'an unknown compression',
      '/session',
      { method: 'POST', body: '{}', headers: { 'Content-Type': 'application/json', 'Content-Encoding': 'nonsense' } },
      415,
    ],
    [
      'a broken compression',
      '/session',
      { method: 'POST', body: 'x', headers: { 'Content-Type': 'application/json', 'Content-Encoding': 'gzip' } },
      400,
    ],
    [
      'an unknown charset',
      '/session',
      { method: 'POST', body: '{}', headers: { 'Content-Type': 'application/json; charset=klingon' } },
      415,
    ],
  ])('%s is answered %4$s', async (_what, path, init, status) => {
    const answer = await raw(path, init as RequestInit);
    expect(answer.status).toBe(status);
    expect(answer.headers.get('Content-Type')).toContain('application/problem+json');
    expect(((await answer.json()) as { errors: object[] }).errors).toHaveLength(1);
  });

  it.each(['[01900000-0000-7000-8000-000000000001]', '(01900000-0000-7000-8000-000000000001)', 'a:b:c', '{x}'])(
    'the id %s is no id',
    async (id) => {
      expect((await maren.get(`/deals/${encodeURIComponent(id)}`, 400)).body.errors[0].pointer).toBe('/path/deal');
    },
  );

  it.each([
    '/deals?ageFrom=3000000',
    `/deals?after=${made(['2026-01-01 10:00:00+99', '01900000-0000-7000-8000-000000000001'])}`,
    `/past-due?after=${made([-1, 3_000_000_000, 'a', '', '', '', '', ''])}`,
    `/past-due?after=${made([-1, 0, 'a', '', '', '', '', 'a\u0000'])}`,
    `/past-due?after=${made([-1])}`,
  ])('the query %s is told its place', async (path) => {
    expect((await maren.get(path, 400)).body.errors[0].pointer).toMatch(/^\/query\//);
  });

  it('an instant of another age, and a revision that no draft can have', async () => {
    const { body: deal } = await maren.post('/deals', { process: test.process, name: 'Deal', values: {} }, 201);
    const activity = { kind: 'call', text: 'x', happenedAt: '0001-01-01T00:00:00+23:59' };
    expect((await maren.post(`/deals/${deal.id}/activities`, activity, 400)).body.errors[0].pointer).toBe(
      '/happenedAt',
    );
    await maren.post(`/processes/${test.process}/draft`, undefined, 201);
    const { body: draft } = await maren.get(`/processes/${test.process}/draft`);
    const save = { document: draft.document };
    await maren.send('PUT', `/processes/${test.process}/draft`, save, 412, { 'If-Match': '"2147483648"' });
    await maren.send('PUT', `/processes/${test.process}/draft`, save, 412, { 'If-Match': '"9999999999"' });
    await maren.send('DELETE', `/processes/${test.process}/draft`, undefined, 204);
  });

  it('two reasons with one id', async () => {
    const reason = { id: 'r', outcome: 'won', name: 'R', followUp: 'not_asked', withdrawn: 'no' };
    const { body } = await maren.patch(`/processes/${test.process}`, { reasons: [reason, reason] }, 400);
    expect(body.errors).toMatchObject([{ pointer: '/reasons/1/id' }]);
  });

  it('an id in capitals is the same id: a deal is no duplicate of itself', async () => {
    const { body: deal } = await maren.post('/deals', { process: test.process, name: 'Deal', values: {} }, 201);
    const { body } = await maren.get(`/deals/${String(deal.id).toUpperCase()}`);
    expect(body.id).toBe(deal.id);
    await maren.post(`/deals/${deal.id}/void`, { text: 'x', duplicateOf: String(deal.id).toUpperCase() }, 422);
  });

  it('a rate out of all proportion leaves lanes and compliance told', async () => {
    const value = { minor: 900_000_000_000_000, currency: 'BHD' };
    await maren.post('/deals', { process: test.process, name: 'Huge', values: { value } }, 201);
    await maren.send('PUT', '/rates', { from: 'BHD', to: 'GBP', day: '2026-11-24', rate: 1e9 }, 200);
    expect((await maren.get(`/processes/${test.process}/lanes`)).body.withoutRate).toBe(1);
    await maren.get(`/processes/${test.process}/compliance`);
    await maren.send('PUT', '/rates', { from: 'BHD', to: 'GBP', day: '2026-11-24', rate: 2 }, 200);
  });
});

describe('heavy work', () => {
  it('of one person is limited, with when to ask again; others go on', async () => {
    const ask = () => maren.send('GET', `/processes/${test.process}/lanes`, undefined, 0);
    const answers = await Promise.all(Array.from({ length: 30 }, ask));
    const refused = answers.filter(({ status }) => status === 429);
    expect(refused.length).toBeGreaterThan(0);
    expect(refused[0]?.headers.get('Retry-After')).toBe('2');
    const priya = await test.as('priya');
    const [, other] = await Promise.all([
      Promise.all(Array.from({ length: 30 }, ask)),
      priya.get(`/processes/${test.process}/lanes`),
    ]);
    expect(other.status).toBe(200);
    expect((await ask()).status).toBe(200);
  });
});

describe('signing in', () => {
  const guess = (email: string) => anyone().send('POST', '/session', { email, password: 'wrong' }, 0);

  it('of many guesses at once no more are tried than the limit', async () => {
    const answers = await Promise.all(Array.from({ length: 40 }, () => guess('bea@test.example')));
    expect(answers.filter(({ status }) => status === 401)).toHaveLength(10);
    expect(answers.filter(({ status }) => status === 429)).toHaveLength(30);
    test.clock.pass(16 * MINUTE);
    await Client.signIn(test.server.url, 'bea@test.example', PASSWORD);
  });

  it('counts addresses as a trusted proxy tells them, and no one else’s word; behind TLS the cookie is Secure', async () => {
    const through = async (trustedProxies: readonly string[]) => {
      const server = await startServer(testConfig(test.database, { trustedProxies }), test.clock, THREADS);
      const send = (address: string, password: string) =>
        fetch(`${server.url}/api/v1/session`, {
          method: 'POST',
          headers: { 'Content-Type': 'application/json', 'X-Forwarded-For': address, 'X-Forwarded-Proto': 'https' },
          body: JSON.stringify({ email: 'lena@test.example', password }),
        });
      await send('203.0.113.7', 'wrong');
      const answer = await send('203.0.113.8', PASSWORD);
      await server.stop();
      const { rows } = await asOwner(
        test.database,
        `select name from sign_in_tries where scope = 'address' and name like '203%'`,
      );
      return { cookie: answer.headers.get('Set-Cookie'), counted: rows.map(({ name }) => name) };
    };
    const plain = await through([]);
    expect(plain.counted).toEqual([]);
    expect(plain.cookie).not.toContain('Secure');
    const trusted = await through(['loopback']);
    expect(trusted.counted).toContain('203.0.113.7');
    expect(trusted.cookie).toContain('Secure');
  });

  it('ends after a time of no use, however long it may last', async () => {
    const server = await startServer(testConfig(test.database, { sessionIdleMs: DAY }), test.clock, THREADS);
    const client = await Client.signIn(server.url, 'tomas@test.example', PASSWORD);
    for (let use = 0; use < 3; use++) {
      test.clock.pass(DAY / 2);
      await client.get('/deals');
    }
    test.clock.pass(DAY + MINUTE);
    await client.get('/deals', 401);
    await server.stop();
  });

  it('one changes one’s own password, and is signed out elsewhere', async () => {
    maren = await test.as('maren');
    const account = { name: 'Nils', email: 'nils@test.example', role: 'viewer', teams: [], password: 'first password' };
    await maren.post('/people', account, 201);
    const here = await Client.signIn(test.server.url, account.email, account.password);
    const elsewhere = await Client.signIn(test.server.url, account.email, account.password);
    const change = (present: string, next: string, expected: number) =>
      here.send('PUT', '/session/password', { present, next }, expected);
    expect((await change('not it', 'second password', 422)).body.errors[0].pointer).toBe('/present');
    expect((await change('first password', 'short', 400)).body.errors[0].pointer).toBe('/next');
    await change('first password', 'second password', 204);
    await here.get('/deals');
    await elsewhere.get('/deals', 401);
    await Client.signIn(test.server.url, account.email, 'second password');
  });
});

describe('what sellers see of others', () => {
  it('counts only their own deals in the list of processes', async () => {
    const [priya, bea] = [await test.as('priya'), await test.as('bea')];
    const countOf = async (client: Client) =>
      (await client.get('/processes')).body.items.find(({ id }: { id: string }) => id === test.process);
    const before = await countOf(bea);
    await priya.post('/deals', { process: test.process, name: 'North’s', values: {} }, 201);
    const after = await countOf(bea);
    expect([after.openDeals, after.live.openDeals]).toEqual([before.openDeals, before.live.openDeals]);
    const mine = await countOf(priya);
    expect(mine.openDeals).toBeGreaterThan(0);
  });

  it('is no process that was never published, and no draft', async () => {
    const { body: fresh } = await maren.post(
      '/processes',
      { name: 'Secret', kind: 'deal', currency: 'GBP', firstStage: 'x' },
      201,
    );
    for (const name of ['priya', 'tomas', 'lena']) await (await test.as(name)).get(`/processes/${fresh.id}`, 404);
    await maren.post(`/processes/${test.process}/draft`, undefined, 201);
    const { body } = await (await test.as('priya')).get(`/processes/${test.process}`);
    expect([body.hasDraft, body.versions.map(({ state }: { state: string }) => state)]).toEqual([false, ['live']]);
    await maren.send('DELETE', `/processes/${test.process}/draft`, undefined, 204);
  });

  it('gives no deal an external id, and so learns of none', async () => {
    const deal = { process: test.process, name: 'Deal', externalId: 'X-1', values: {} };
    await maren.post('/deals', deal, 201);
    for (const name of ['priya', 'tomas']) await (await test.as(name)).post('/deals', deal, 403);
  });

  it('is a customer of their deals, or of none; they change those they have a deal with', async () => {
    const [priya, bea] = [await test.as('priya'), await test.as('bea')];
    const add = async (client: Client, name: string) =>
      (await client.post('/customers', { name, values: {} }, 201)).body;
    const [theirs, unused] = [await add(priya, 'Northern'), await add(priya, 'Unused')];
    const contact = (await priya.post('/contacts', { customer: theirs.id, name: 'Nora', values: {} }, 201)).body;
    await priya.post(
      '/deals',
      { process: test.process, name: 'D', values: { customer: theirs.id, contact: contact.id } },
      201,
    );
    const names = async (client: Client, path: string) =>
      (await client.get(path)).body.items.map(({ name }: { name: string }) => name);
    expect(await names(bea, '/customers?find=nor')).toEqual([]);
    expect(await names(bea, '/contacts?find=nor')).toEqual([]);
    expect(await names(bea, '/customers?find=unused')).toEqual(['Unused']);
    expect(await names(priya, '/customers?find=nor')).toEqual(['Northern']);
    await bea.patch(`/customers/${theirs.id}`, { name: 'Mine' }, 404);
    await bea.patch(`/contacts/${contact.id}`, { name: 'Mine' }, 404);
    await bea.patch(`/customers/${unused.id}`, { name: 'Mine' }, 403);
    await bea.post('/deals', { process: test.process, name: 'D', values: { customer: theirs.id } }, 400);
    await priya.patch(`/customers/${theirs.id}`, { name: 'Northern Growers' });
    await priya.patch(`/contacts/${contact.id}`, { name: 'Nora B.' });
    expect(PEOPLE.bea?.teams).not.toEqual(PEOPLE.priya?.teams);
  });
});
