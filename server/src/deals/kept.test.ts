import { afterAll, beforeAll, beforeEach, describe, expect, it } from 'vitest';
import { type RunningServer, startServer } from '../server.ts';
import { Client } from '../testing/client.ts';
import {
  DOCUMENT,
  PASSWORD,
  PEOPLE,
  saveAndPublish,
  startTestServer,
  TEAMS,
  type TestServer,
  THREADS,
  testConfig,
} from '../testing/testServer.ts';

/*
 * What a server keeps of deals is never told once it is not so, whoever wrote what it is made of: another press, another server, or
 * something beside the deal. That whole deals are kept as they are read is compared in all tests (LADDER_CHECK_KEPT).
 */

let test: TestServer;
let other: RunningServer;
let maren: Client;
let elsewhere: Client;
let customer: string;
let path: string;

beforeAll(async () => {
  test = await startTestServer();
  other = await startServer(testConfig(test.database), test.clock, THREADS);
  maren = await test.as('maren');
  elsewhere = await Client.signIn(other.url, 'maren@test.example', PASSWORD);
});
afterAll(async () => {
  await other.stop();
  await test.stop();
});

beforeEach(async () => {
  ({ id: customer } = (await maren.post('/customers', { name: 'Growers', values: {} }, 201)).body);
  const values = { customer, owner: PEOPLE.priya?.id, team: TEAMS.north };
  path = `/deals/${(await maren.post('/deals', { process: test.process, name: 'Kept', values }, 201)).body.id}`;
  // Both keep it from here on.
  for (const client of [maren, elsewhere]) for (const _turn of [1, 2]) await client.get(path);
});

const task = (title: string) => ({ title, assignee: null, dueDay: '2026-11-25' });

const told = async () => {
  const [here, there] = [(await maren.get(path)).body, (await elsewhere.get(path)).body];
  expect({ ...here, setting: null }).toEqual({ ...there, setting: null });
  return here;
};

describe('a deal that two servers keep', () => {
  it('is told as either of them wrote it', async () => {
    await maren.patch(path, { changes: [{ field: 'next_action', saw: null, value: 'Ring' }] });
    expect((await told()).values.next_action).toBe('Ring');
    await elsewhere.patch(path, { changes: [{ field: 'next_action', saw: 'Ring', value: 'Write' }] });
    expect((await told()).values.next_action).toBe('Write');
    await elsewhere.post(`${path}/tasks`, task('Ring them'), 201);
    await maren.patch(path, { name: 'Kept on', changes: [] });
    expect(await told()).toMatchObject({ name: 'Kept on', tasks: [{ title: 'Ring them' }] });
  });

  it('is told without a title that was erased', async () => {
    await maren.post(`${path}/tasks`, task('Said too much'), 201);
    const { items } = (await maren.get(`${path}/journal`)).body;
    const { seq } = items.find(({ kind }: { kind: string }) => kind === 'task_added');
    await maren.send('DELETE', `${path}/journal/${seq}/text`, undefined, 200);
    expect((await told()).tasks).toMatchObject([{ title: '' }]);
  });

  it('is told with what its customer is called and known by since', async () => {
    await elsewhere.patch(`/customers/${customer}`, { name: 'Growers of the south' });
    expect((await told()).customer.name).toBe('Growers of the south');
    await elsewhere.patch(`/customers/${customer}`, { name: 'Growers of the north', values: { credit: true } });
    expect(await told()).toMatchObject({ customer: { name: 'Growers of the north' }, partyValues: { credit: true } });
  });

  it('is told with what its people and teams are called since', async () => {
    await elsewhere.patch(`/accounts/${PEOPLE.priya?.id}`, { name: 'Priya Nandan-Holt' });
    await elsewhere.patch(`/teams/${TEAMS.north}`, { name: 'Far north' });
    const { names } = await told();
    expect([names[PEOPLE.priya?.id ?? ''], names[TEAMS.north]]).toEqual(['Priya Nandan-Holt', 'Far north']);
  });

  it('is told in the version that its process has since', async () => {
    const before = (await told()).version.number;
    await elsewhere.post(`/processes/${test.process}/draft`, {}, 201);
    await saveAndPublish(elsewhere, test.process, DOCUMENT);
    expect((await told()).version.number).toBe(before + 1);
  });
});
