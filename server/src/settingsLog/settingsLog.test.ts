import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import type { Client } from '../testing/client.ts';
import { startTestServer, type TestServer } from '../testing/testServer.ts';

let test: TestServer;
let maren: Client;
beforeAll(async () => {
  test = await startTestServer();
  maren = await test.as('maren');
});
afterAll(() => test.stop());

const latest = async () => (await maren.get('/settings/log')).body.items[0];
const SECRET = 'a long enough secret';

describe('what is set for the whole organisation', () => {
  it('is kept of an account before and after, but for its password', async () => {
    const { body: team } = await maren.post('/teams', { name: 'Orchids' }, 201);
    expect(await latest()).toMatchObject({ what: 'team', subject: 'Orchids', by: 'Maren Holt' });
    const account = { name: 'New Hand', email: 'new@hand.example', role: 'seller', teams: [], password: SECRET };
    const { body: person } = await maren.post('/people', account, 201);
    expect((await latest()).changes).toContainEqual({ part: 'role', before: null, after: 'seller' });
    await maren.patch(`/accounts/${person.id}`, { role: 'manager', teams: [team.id], password: `${SECRET} 2` });
    const entry = await latest();
    expect(entry).toMatchObject({ what: 'account', subject: 'New Hand', by: 'Maren Holt' });
    expect(entry.changes).toEqual([
      { part: 'role', before: 'seller', after: 'manager' },
      { part: 'teams', before: 'none', after: 'Orchids' },
      { part: 'password', before: null, after: 'a new one' },
    ]);
    expect(JSON.stringify((await maren.get('/settings/log')).body)).not.toContain(SECRET);
  });

  it('is kept of a rate that takes the place of another', async () => {
    const rate = { from: 'SEK', to: 'GBP', day: '2026-11-02', rate: 0.07 };
    await maren.send('PUT', '/rates', rate, 200);
    await maren.send('PUT', '/rates', { ...rate, rate: 0.08 }, 200);
    expect(await latest()).toMatchObject({
      what: 'rate',
      subject: 'SEK to GBP from 2026-11-02',
      changes: [{ part: 'rate', before: '0.07', after: '0.08' }],
    });
  });

  it('is not kept where it was refused, or left as it was', async () => {
    const { body: kind } = await maren.post('/document-kinds', { name: 'Permits' }, 201);
    const before = await latest();
    await maren.patch(`/document-kinds/${kind.id}`, { name: 'Permits' });
    await maren.post('/teams', { name: 'Orchids' }, 409);
    expect(await latest()).toEqual(before);
  });

  it('is told to administrators, and a page at a time', async () => {
    await (await test.as('tomas')).get('/settings/log', 403);
    const { body: first } = await maren.get('/settings/log?limit=1');
    const { body: second } = await maren.get(`/settings/log?limit=1&after=${first.next}`);
    expect(Number(second.items[0].id)).toBeLessThan(Number(first.items[0].id));
  });
});
