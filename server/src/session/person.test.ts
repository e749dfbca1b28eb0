import { afterAll, beforeAll, beforeEach, describe, expect, it } from 'vitest';
import { Client } from '../testing/client.ts';
import { DAY } from '../testing/movableClock.ts';
import { PASSWORD, startTestServer, type TestServer } from '../testing/testServer.ts';

/* A session is taken to be as it was read last, and looked at on the way: whatever changed in between is told of at once. */

let test: TestServer;
let maren: Client;
let nadia: Client;
let account: string;
let path: string;
let written: number;

const NADIA = { name: 'Nadia Assumed', email: 'nadia@test.example', password: PASSWORD, teams: [] };

beforeAll(async () => {
  test = await startTestServer();
  maren = await test.as('maren');
  account = (await maren.post('/people', { ...NADIA, role: 'seller' }, 201)).body.id;
});
afterAll(() => test.stop());

const note = (expected: number, by = nadia) =>
  by.post(`${path}/activities`, { kind: 'note', text: 'As they said' }, expected);
const entries = async (): Promise<number> => (await maren.get(`${path}/journal`)).body.items.length;

beforeEach(async () => {
  await maren.patch(`/accounts/${account}`, { role: 'seller' });
  nadia = await Client.signIn(test.server.url, NADIA.email, PASSWORD);
  const { body } = await nadia.post('/deals', { process: test.process, name: 'Assumed', values: {} }, 201);
  path = `/deals/${body.id}`;
  await nadia.get(path);
  await note(201);
  written = await entries();
});

describe('a session that was read before', () => {
  it('writes nothing once its person may no longer write', async () => {
    await maren.patch(`/accounts/${account}`, { role: 'viewer' });
    await note(403);
    expect(await entries()).toBe(written);
  });

  it('writes at once what its person may write since', async () => {
    await maren.patch(`/accounts/${account}`, { role: 'viewer' });
    await note(403);
    await maren.patch(`/accounts/${account}`, { role: 'manager' });
    await note(201);
    expect((await nadia.get(path)).body.may.void).toBe(true);
  });

  it('reads and writes nothing once it is signed out', async () => {
    await nadia.send('DELETE', '/session', undefined, 204);
    await nadia.get(path, 401);
    await note(401);
    expect(await entries()).toBe(written);
  });

  it('reads and writes nothing once its person has left', async () => {
    await maren.patch(`/accounts/${account}`, { active: false });
    await nadia.get(path, 401);
    await note(401);
    await maren.patch(`/accounts/${account}`, { active: true });
    expect(await entries()).toBe(written);
  });

  it('writes nothing without the token of its own pages, and then as before', async () => {
    const { Cookie } = nadia.headers;
    const elsewhere = { headers: { Cookie, 'Content-Type': 'application/json' }, method: 'POST' };
    const body = JSON.stringify({ kind: 'note', text: 'From elsewhere' });
    const answer = await fetch(`${test.server.url}/api/v1${path}/activities`, { ...elsewhere, body } as RequestInit);
    expect(answer.status).toBe(403);
    expect(await entries()).toBe(written);
    await note(201);
  });

  it('ends where it was not used for too long', async () => {
    test.clock.pass(15 * DAY);
    await nadia.get(path, 401);
    await note(401);
    maren = await test.as('maren');
    expect(await entries()).toBe(written);
  });

  it('does a press once, whatever is sent beside its key', async () => {
    const key = { 'Idempotency-Key': 'Pressed twice' };
    const press = () => nadia.post(`${path}/activities`, { kind: 'note', text: 'Pressed twice' }, 201, key);
    await Promise.all([press(), press(), press()]);
    await press();
    expect(await entries()).toBe(written + 1);
  });
});
