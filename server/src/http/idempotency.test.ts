import type { Request } from 'express';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { createDataSource } from '../db/dataSource.ts';
import { OutcomeUnknown } from '../db/failures.ts';
import { Problem } from '../problems/problem.ts';
import type { Person } from '../session/person.ts';
import type { Client } from '../testing/client.ts';
import { DAY } from '../testing/movableClock.ts';
import { startTestServer, type TestServer } from '../testing/testServer.ts';
import { onceQuickly } from './idempotency.ts';

let test: TestServer;
let maren: Client;
beforeAll(async () => {
  test = await startTestServer();
  maren = await test.as('maren');
});
afterAll(() => test.stop());

const add = (client: Client, name: string, key: string, expected = 201) =>
  client.post('/deals', { process: test.process, name, values: {} }, expected, { 'Idempotency-Key': key });
const count = async () => (await maren.get(`/deals?process=${test.process}&limit=200`)).body.items.length;

describe('a request that is sent again (S35)', () => {
  it('is answered as the first time, and done once', async () => {
    const first = await add(maren, 'Once', 'a');
    const before = await count();
    expect((await add(maren, 'Once', 'a')).body).toEqual(first.body);
    expect(await count()).toBe(before);
  });

  it('is another one with another key, and of another person with the same', async () => {
    const before = await count();
    await add(maren, 'Once', 'b');
    await add(await test.as('priya'), 'Once', 'b');
    expect(await count()).toBe(before + 2);
  });

  it('is told where its body or its address is another', async () => {
    await add(maren, 'Once', 'c');
    const { body } = await add(maren, 'Twice', 'c', 422);
    expect(body.detail).toBe('This Idempotency-Key was used for another request.');
  });

  it('at the same moment waits for the first, and has its answer', async () => {
    const before = await count();
    const answers = await Promise.all(Array.from({ length: 5 }, () => add(maren, 'At once', 'd')));
    expect(new Set(answers.map(({ body }) => body.id)).size).toBe(1);
    expect(await count()).toBe(before + 1);
  });

  it('is answered so too where what it asks for can be done no more', async () => {
    const { body: deal } = await add(maren, 'Moved once', 'moved once');
    const twice = async (path: string, body: object) => {
      const press = () =>
        maren.post(`/deals/${deal.id}${path}`, body, 200, { 'Idempotency-Key': `${path} ${deal.id}` });
      const first = await press();
      expect((await press()).body).toEqual(first.body);
      return first.body;
    };
    const target = { to: 'stage', stage: 'survey' };
    const { deal: moved } = await twice('/moves', {
      target,
      revision: deal.revision,
      mode: 'force',
      text: 'So it was',
    });
    expect(moved.revision).toBeGreaterThan(deal.revision);
    const { revision } = await twice('/moves/take-back', { revision: moved.revision });
    expect((await maren.get(`/deals/${deal.id}`)).body.revision).toBe(revision);
  });

  it('is answered by what was committed where the connection was lost meanwhile, and told so where nothing was', async () => {
    const body = { process: test.process, name: 'Cut off', values: {} };
    const first = await maren.post('/deals', body, 201, { 'Idempotency-Key': 'cut off' });
    const { id } = (await maren.get('/session')).body.person;
    const person: Person = { id, name: 'Maren', role: 'administrator', teams: [] };
    const source = await createDataSource(test.database.serverUrl).initialize();
    const lost = new OutcomeUnknown(new Error('Connection terminated'));
    const refused = new Problem(409, 'It has moved on.');
    const pressed = (key: string, failure: Error) => {
      const request = { get: () => key, method: 'POST', originalUrl: '/api/v1/deals', body } as unknown as Request;
      const press = { person, request, now: test.clock.now() };
      return onceQuickly(source, press, () => Promise.reject(failure));
    };
    expect((await pressed('cut off', lost)).body).toEqual(first.body);
    await expect(pressed('never came', lost)).rejects.toBe(lost);
    expect((await pressed('cut off', refused)).body).toEqual(first.body);
    await expect(pressed('never came', refused)).rejects.toBe(refused);
    await source.destroy();
    // Nobody knows now whether the first had done what a repeat is refused for: it is to be asked again.
    for (const failure of [refused, new Error('duplicate key value')])
      await expect(pressed('cut off', failure)).rejects.not.toBe(failure);
    await expect(pressed('cut off', lost)).rejects.toBe(lost);
  });

  it('is tried anew where the first could not be done at all, and after a day', async () => {
    await maren.post('/deals', { process: test.process, name: '', values: {} }, 400, { 'Idempotency-Key': 'e' });
    await add(maren, 'Now whole', 'e');
    const before = await count();
    test.clock.pass(DAY + 1);
    maren = await test.as('maren');
    await add(maren, 'Now whole', 'e');
    expect(await count()).toBe(before + 1);
  });

  it.each([
    ['/customers', { name: 'Repeated Gardens', values: {} }],
    ['/contacts', { name: 'Repeated Person', values: {}, customer: null }],
    ['/fields', { holder: 'deal', type: 'number', name: 'Repeated number' }],
    ['/teams', { name: 'Repeated team' }],
    ['/people', { name: 'R', email: 'r@test.example', role: 'seller', teams: [], password: 'a long enough password' }],
    ['/processes', { name: 'Repeated process', kind: 'deal', currency: 'GBP', firstStage: 'First' }],
  ])('adds nothing twice to %s', async (path, body) => {
    const key = { 'Idempotency-Key': `adding to ${path}` };
    const first = await maren.post(path, body, 201, key);
    expect((await maren.post(path, body, 201, key)).body).toEqual(first.body);
  });

  it('begins one draft, and is given its tag again', async () => {
    const path = `/processes/${test.process}/draft`;
    const first = await maren.post(path, {}, 201, { 'Idempotency-Key': 'draft' });
    const again = await maren.post(path, {}, 201, { 'Idempotency-Key': 'draft' });
    expect(again.body).toEqual(first.body);
    expect(again.headers.get('ETag')).toBe(first.headers.get('ETag'));
    await maren.post(path, {}, 409);
  });

  it('takes a file in once, runs its import once and takes it back once', async () => {
    const path = `/imports?fileName=again.csv&process=${test.process}`;
    const send = (to: string, body: unknown, expected: number, key = to) =>
      maren.post(to, body, expected, { 'Idempotency-Key': key.slice(0, 200) });
    const file = 'Id,Deal\nR1,Repeated deal\n';
    const { body } = await send(path, file, 201);
    expect((await send(path, file, 201)).body.import.id).toBe(body.import.id);
    await send(path, file.replace('R1', 'R2'), 422);
    const { id } = body.import;
    const ends = (state: string) =>
      expect.poll(async () => (await maren.get(`/imports/${id}`)).body.state, { timeout: 20_000 }).toBe(state);
    for (let repeat = 0; repeat < 2; repeat++) await send(`/imports/${id}/run`, body.preview.settings, 202);
    await ends('done');
    for (let repeat = 0; repeat < 2; repeat++) await send(`/imports/${id}/take-back`, undefined, 202);
    await ends('taken_back');
    await send(`/imports/${id}/take-back`, undefined, 409, 'another press');
  });

  it('has a key of at most 200 characters', async () => {
    const { body } = await add(maren, 'Long key', 'k'.repeat(201), 400);
    expect(body.errors[0].pointer).toBe('/header/Idempotency-Key');
  });
});
