import { afterAll, beforeAll, expect, it } from 'vitest';
import { Client } from '../testing/client.ts';
import { DAY } from '../testing/movableClock.ts';
import { asOwner } from '../testing/testDatabase.ts';
import { startTestServer, type TestServer } from '../testing/testServer.ts';
import { keepHouse } from './housekeeping.ts';

let test: TestServer;
beforeAll(async () => {
  test = await startTestServer();
});
afterAll(() => test.stop());

const left = async (table: 'sign_in_tries' | 'idempotency_keys' | 'sessions') =>
  Number((await asOwner(test.database, `select count(*) as rows from ${table}`)).rows[0].rows);

it('what is kept for a time only is kept until then, and no longer', async () => {
  const maren = await test.as('maren');
  const deal = { process: test.process, name: 'Once', values: {} };
  await maren.post('/deals', deal, 201, { 'Idempotency-Key': 'once' });
  const wrong = { email: 'maren@test.example', password: 'wrong password' };
  await Client.anonymous(test.server.url).send('POST', '/session', wrong, 401);
  await keepHouse(test.server.context);
  expect(await left('sign_in_tries')).toBeGreaterThan(0);
  expect(await left('idempotency_keys')).toBe(1);
  test.clock.pass(DAY / 2);
  await keepHouse(test.server.context);
  expect(await left('sign_in_tries')).toBe(0);
  expect(await left('idempotency_keys')).toBe(1);
  test.clock.pass(DAY / 2 + 1);
  await keepHouse(test.server.context);
  expect(await left('idempotency_keys')).toBe(0);
  expect(await left('sessions')).toBeGreaterThan(0);
  test.clock.pass(365 * DAY);
  await keepHouse(test.server.context);
  expect(await left('sessions')).toBe(0);
});
