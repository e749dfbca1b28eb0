import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import type { Client } from '../testing/client.ts';
import { DOCUMENT, publishFirst, saveAndPublish, startTestServer, type TestServer } from '../testing/testServer.ts';

let test: TestServer;
let maren: Client;
let tomas: Client;
let priya: Client;
let bea: Client;
const PEOPLE: Record<string, string> = {};
beforeAll(async () => {
  test = await startTestServer();
  [maren, tomas, priya, bea] = [
    await test.as('maren'),
    await test.as('tomas'),
    await test.as('priya'),
    await test.as('bea'),
  ];
  for (const { id, name } of (await maren.get('/people')).body.items) PEOPLE[name.split(' ')[0].toLowerCase()] = id;
});
afterAll(() => test.stop());

const begin = async () =>
  (await priya.post('/deals', { process: test.process, name: 'Palm house', values: {} }, 201)).body;
const note = (client: Client, { id }: { id: string }, text: string, expected = 201) =>
  client.post(`/deals/${id}/activities`, { kind: 'note', text }, expected);
const notices = async (client: Client) => (await client.get('/bell')).body.items;
const unread = async (client: Client) => (await client.get('/bell/unread')).body.unread;
const readAll = (client: Client) => client.post('/bell/read', {});

describe('the bell', () => {
  it('tells whom a note mentions, once, and never who wrote it', async () => {
    const deal = await begin();
    await note(priya, deal, `Ask [@Tomas Verhey](person:${PEOPLE.tomas}) and [@Priya Nandan](person:${PEOPLE.priya})`);
    expect(await notices(tomas)).toMatchObject([
      { kind: 'mentioned', deal: { id: deal.id, name: 'Palm house' }, by: 'Priya Nandan', read: false },
    ]);
    expect(await notices(priya)).toEqual([]);
    expect(await unread(tomas)).toBe(1);
    expect((await readAll(tomas)).body.unread).toBe(0);
    expect((await notices(tomas))[0].read).toBe(true);
  });

  it('refuses a mention of someone who does not see the deal, and writes nothing', async () => {
    const deal = await begin();
    const refused = (await note(priya, deal, `[@Bea Ferrant](person:${PEOPLE.bea})`, 422)).body;
    expect(refused.errors[0]).toMatchObject({ pointer: '/text', detail: expect.stringContaining('does not see') });
    await note(priya, deal, '[@No One](person:00000000-0000-7000-8000-000000000000)', 422);
    expect((await priya.get(`/deals/${deal.id}/journal`)).body.items).toHaveLength(1);
  });

  it('tells of a watched deal, one notice for all that is unread; not any more once it is watched no longer', async () => {
    const deal = await begin();
    await tomas.send('PUT', `/deals/${deal.id}/watchers/me`, undefined, 200);
    await tomas.send('PUT', `/deals/${deal.id}/watchers/me`, undefined, 200);
    expect((await priya.get(`/deals/${deal.id}/watchers`)).body).toEqual({
      watching: false,
      people: [{ id: PEOPLE.tomas, name: 'Tomas Verhey' }],
    });
    await note(priya, deal, 'One');
    await note(priya, deal, 'Two');
    await note(tomas, deal, 'Mine');
    expect((await notices(tomas))[0]).toMatchObject({ kind: 'watched', times: 2, event: 'activity' });
    await readAll(tomas);
    await tomas.send('DELETE', `/deals/${deal.id}/watchers/me`, undefined, 200);
    await note(priya, deal, 'Three');
    expect(await unread(tomas)).toBe(0);
    await bea.send('PUT', `/deals/${deal.id}/watchers/me`, undefined, 404);
  });

  it('tells to whom a task falls, who may decide on a waiver, and who asked for it', async () => {
    const deal = await begin();
    await tomas.post(`/deals/${deal.id}/tasks`, { title: 'Ring', assignee: PEOPLE.priya, dueDay: '2026-12-01' }, 201);
    expect((await notices(priya))[0]).toMatchObject({ kind: 'assigned', event: 'task_added', by: 'Tomas Verhey' });
    const asked = { target: { to: 'stage', stage: 'survey' }, items: ['called'], why: 'Soon', until: '2026-12-01' };
    await priya.post(`/deals/${deal.id}/waivers`, asked, 201);
    for (const client of [tomas, maren]) expect((await notices(client))[0]).toMatchObject({ kind: 'waiver_asked' });
    await tomas.send('PUT', `/deals/${deal.id}/waivers/1/decision`, { how: 'refused', word: 'No' }, 200);
    expect((await notices(priya))[0]).toMatchObject({ kind: 'waiver_decided', by: 'Tomas Verhey' });
    expect(await notices(bea)).toEqual([]);
  });

  it('tells of nothing on a deal that one may not see any more', async () => {
    const deal = await begin();
    await note(tomas, deal, `[@Priya Nandan](person:${PEOPLE.priya})`);
    expect((await notices(priya))[0]).toMatchObject({ kind: 'mentioned' });
    await maren.post('/deals/reassign', {
      deals: [deal.id],
      owner: PEOPLE.bea,
      team: 'owners',
      tasks: 'go',
      steps: 'go',
      waivers: 'go',
      watchers: 'keep',
    });
    expect((await notices(priya)).map((one: { deal: { id: string } | null }) => one.deal?.id)).not.toContain(deal.id);
    expect((await notices(bea))[0]).toMatchObject({ kind: 'assigned', event: 'reassigned' });
  });

  it('tells everyone with open deals of a process that it was published, with its note and how many', async () => {
    const process = await publishFirst(maren, { ...DOCUMENT, name: 'Told' });
    await priya.post('/deals', { process, name: 'One', values: {} }, 201);
    await readAll(priya);
    await maren.post(`/processes/${process}/draft`, undefined, 201);
    await saveAndPublish(
      maren,
      process,
      { ...DOCUMENT, name: 'Told', purpose: 'Another' },
      { note: 'Mind the gutters' },
    );
    expect((await notices(priya))[0]).toMatchObject({
      kind: 'published',
      by: 'Maren Holt',
      published: { process: { id: process }, number: 2, note: 'Mind the gutters', deals: 1 },
    });
  });

  it('pages, and is one’s own alone to read', async () => {
    const { body: first } = await priya.get('/bell?limit=2');
    const { body: second } = await priya.get(`/bell?limit=2&after=${first.next}`);
    const ids = [...first.items, ...second.items].map(({ id }: { id: string }) => id);
    expect(ids.length).toBeGreaterThan(2);
    expect(new Set(ids).size).toBe(ids.length);
    const [mine] = await notices(priya);
    await bea.post('/bell/read', { notices: [mine.id] });
    expect((await notices(priya))[0].read).toBe(mine.read);
  });
});
