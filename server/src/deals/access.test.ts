import { allEndpoints, type Endpoint } from '@ladder/contract';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import type { Client } from '../testing/client.ts';
import { PEOPLE, startTestServer, TEAMS, type TestServer } from '../testing/testServer.ts';

let test: TestServer;
let priya: Client;
let deal: { id: string; revision: number };
let kind: string;
let document: string;
let template: string;
let message: string;
beforeAll(async () => {
  test = await startTestServer();
  priya = await test.as('priya');
  deal = (await priya.post('/deals', { process: test.process, name: 'North block', values: { area: 300 } }, 201)).body;
  kind = (await (await test.as('maren')).post('/document-kinds', { name: 'Report' }, 201)).body.id;
  const attached = await priya.upload(`/deals/${deal.id}/documents?kind=${kind}&name=a.txt`, 'Words');
  document = attached.body.documents[0].id;
  const asked = { target: { to: 'stage', stage: 'survey' }, items: ['called'], why: 'Soon', until: '2026-12-01' };
  await priya.post(`/deals/${deal.id}/waivers`, asked, 201);
  const text = { name: 'Offer', process: null, to: { who: 'owner', field: null }, subject: 'Hello', body: 'Hello' };
  template = (await (await test.as('maren')).post('/message-templates', text, 201)).body.id;
  message = (await priya.post(`/deals/${deal.id}/messages`, WRITTEN, 201)).body.id;
});
afterAll(() => test.stop());

const WRITTEN = { name: 'Ada', address: 'ada@example.org', subject: 'Hello', body: 'Hello' };
/** A request of each endpoint on a deal that would do something for whoever may. */
const BODIES: Readonly<Record<string, object>> = {
  addMessage: WRITTEN,
  confirmMessage: WRITTEN,
  editDeal: { changes: [{ field: 'source', saw: null, value: 'Fair' }] },
  tickItem: { item: 'called', state: 'ticked' },
  moveDeal: { target: { to: 'stage', stage: 'survey' }, revision: 1 },
  takeBackMove: { revision: 1 },
  addActivity: { kind: 'note', text: 'Hello' },
  changeFollowUp: { day: '2027-01-09' },
  voidDeal: { text: 'A test' },
  reopenDeal: { text: 'They called again' },
  takeResult: { result: 'done', version: '01900000-0000-7000-8000-000000050001', captures: [] },
  takeResultBack: {},
  putStepOff: { day: '2027-01-09', text: 'Away' },
  askWaiver: { target: { to: 'stage', stage: 'survey' }, items: ['r1'], why: 'Soon', until: '2027-01-09' },
  decideWaiver: { how: 'refused', word: 'No' },
  revokeWaiver: { word: 'No' },
  addTask: { title: 'Ring back', assignee: null, dueDay: '2027-01-09' },
  useTaskSet: { set: 'visit' },
  endTask: { how: 'done' },
  putTaskOff: { day: '2027-01-09', text: 'Away' },
  passTask: { person: null },
  renameTask: { title: 'Ring again' },
  passStep: { person: '01900000-0000-7000-8000-000000020005' },
};
/** What is one's own to do with what one sees. */
const OWN = ['watchDeal', 'unwatchDeal'];
const QUERIES: Readonly<Record<string, () => string>> = {
  draftMessage: () => `?template=${template}`,
  previewMove: () => '?to=stage&stage=survey',
  attachDocument: () => `?kind=${kind}&name=b.txt`,
};
const onDeals = allEndpoints.filter(({ path }) => path.startsWith('/deals/{deal}'));
const ask = async (client: Client, { path, method, id }: Endpoint) => {
  const query = QUERIES[id]?.() ?? '';
  const address = `${path.replace('{deal}', deal.id).replace('{run}', '1').replace('{task}', '1').replace('{request}', '1').replace('{document}', document).replace('{message}', message)}${query}`;
  return (await client.send(method.toUpperCase(), address, id === 'attachDocument' ? 'More words' : BODIES[id], 0))
    .status;
};

describe('a deal of another team (S32)', () => {
  it.each(onDeals.map((endpoint) => [endpoint.id, endpoint] as const))(
    'is not there for a seller: %s',
    async (_id, endpoint) => {
      const status = await ask(await test.as('bea'), endpoint);
      const roles = typeof endpoint.callers === 'string' ? [] : endpoint.callers;
      expect(status).toBe(roles.length > 0 && !roles.includes('seller') ? 403 : 404);
    },
  );

  it.each(onDeals.map((endpoint) => [endpoint.id, endpoint] as const))(
    'is read and not changed by a viewer: %s',
    async (_id, endpoint) => {
      expect(await ask(await test.as('lena'), endpoint)).toBe(
        endpoint.method === 'get' || OWN.includes(endpoint.id) ? 200 : 403,
      );
    },
  );

  it('is in no list, lane, count or finding of a seller’s', async () => {
    const bea = await test.as('bea');
    expect((await bea.get('/deals')).body.items).toEqual([]);
    expect((await bea.get('/deals?find=north')).body.items).toEqual([]);
    expect((await bea.get(`/processes/${test.process}/lanes`)).body).toMatchObject({ openDeals: 0, allOpenDeals: 0 });
    expect((await bea.get(`/processes/${test.process}/compliance`)).body.all.deals).toBe(0);
    expect((await bea.get(`/processes/${test.process}/movement`)).body.started).toBe(0);
    expect((await bea.get(`/processes/${test.process}/findings`)).body.items).toEqual([]);
  });

  it('cannot be begun by a seller, nor given away to a team that is not theirs', async () => {
    const bea = await test.as('bea');
    const body = { process: test.process, name: 'Theirs', values: { owner: PEOPLE.priya?.id, team: TEAMS.north } };
    await bea.post('/deals', body, 403);
  });

  it('comes to a seller with its team, and leaves its former owner when it is no longer theirs', async () => {
    const bea = await test.as('bea');
    const { body } = await priya.get(`/deals/${deal.id}`);
    const maren = await test.as('maren');
    const change = (field: string, value: unknown) =>
      maren.patch(`/deals/${deal.id}`, { changes: [{ field, saw: body.values[field], value }] });
    await change('team', TEAMS.south);
    await bea.get(`/deals/${deal.id}`, 200);
    await priya.get(`/deals/${deal.id}`, 200);
    await change('owner', PEOPLE.bea?.id);
    await priya.get(`/deals/${deal.id}`, 404);
  });
});
