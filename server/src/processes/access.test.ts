import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import type { Client } from '../testing/client.ts';
import { DAY } from '../testing/movableClock.ts';
import {
  DOCUMENT,
  PEOPLE,
  publishFirst,
  stage,
  startTestServer,
  TEAMS,
  type TestServer,
} from '../testing/testServer.ts';

let test: TestServer;
let maren: Client;
beforeAll(async () => {
  test = await startTestServer();
  maren = await test.as('maren');
});
afterAll(() => test.stop());

const begin = (name: string) => publishFirst(maren, { ...DOCUMENT, name, stages: [stage('only', 'Only')] });
const deal = async (by: Client, process: string, values: object = {}, expected = 201) =>
  (await by.post('/deals', { process, name: 'Deal', values }, expected)).body;
const idOf = (name: string): string => PEOPLE[name]?.id ?? '';

describe('who sees a process', () => {
  it('are the sellers and managers of its teams: others see neither it nor its deals, but what is their own', async () => {
    const process = await begin('Growers only');
    const [priya, bea, tomas, lena] = await Promise.all(['priya', 'bea', 'tomas', 'lena'].map((name) => test.as(name)));
    const shared = await deal(maren, process, { owner: idOf('priya'), team: TEAMS.south });
    const own = await deal(maren, process, { owner: idOf('bea'), team: TEAMS.south });
    const names = async (client?: Client) =>
      (await client?.get('/processes'))?.body.items.map(({ name }: { name: string }) => name);
    expect(await names(bea)).toContain('Growers only');
    await maren.patch(`/processes/${process}`, { access: { teams: [TEAMS.north] } });
    expect(await names(bea)).not.toContain('Growers only');
    for (const client of [priya, tomas, lena, maren]) expect(await names(client)).toContain('Growers only');
    for (const path of ['', '/versions/1', '/versions/1/file', '/lanes', '/movement', '/compliance', '/findings'])
      expect((await bea?.get(`/processes/${process}${path}`, 0))?.status, path).toBe(404);
    await bea?.post('/deals', { process, name: 'Mine', values: {} }, 404);
    await bea?.get(`/deals/${shared.id}`, 404);
    expect((await bea?.get(`/deals/${own.id}`))?.body.name).toBe('Deal');
    const listed = async (client?: Client) =>
      (await client?.get('/deals?limit=100'))?.body.items.map(({ id }: { id: string }) => id);
    expect(await listed(bea)).toContain(own.id);
    expect(await listed(bea)).not.toContain(shared.id);
    expect(await listed(tomas)).toContain(shared.id);
    await maren.patch(`/processes/${process}`, { access: {} });
    expect(await names(bea)).toContain('Growers only');
  });

  it('are teams that there are, one at least', async () => {
    const process = await begin('Somebody’s');
    const refused = async (settings: object) =>
      (await maren.patch(`/processes/${process}`, settings, 400)).body.errors[0].pointer;
    expect(await refused({ access: { teams: [] } })).toBe('/access/teams');
    expect(await refused({ access: { teams: [idOf('priya')] } })).toBe('/access/teams/0');
    expect(await refused({ assignment: { by: 'turn', team: idOf('priya') } })).toBe('/assignment/team');
  });
});

describe('new deals that are handed out', () => {
  it('go in turn over the sellers of a team, whoever begins them, past who is away; one that names its owner does not count', async () => {
    const account = { role: 'seller', teams: [TEAMS.north], password: 'a long enough secret' };
    const [ada, zoe] = await Promise.all(
      ['Ada', 'Zoe'].map(
        async (name) =>
          (await maren.post('/people', { ...account, name, email: `${name}@turns.example` }, 201)).body.id as string,
      ),
    );
    const process = await begin('Handed out');
    await maren.patch(`/processes/${process}`, { assignment: { by: 'turn', team: TEAMS.north } });
    const bea = await test.as('bea');
    const owner = async (by: Client = maren, values: object = {}) => {
      const { values: written } = await deal(by, process, values);
      expect(written.team).toBe(TEAMS.north);
      return written.owner;
    };
    const priya = idOf('priya');
    expect([await owner(), await owner(bea), await owner(), await owner()]).toEqual([ada, priya, zoe, ada]);
    expect(await owner(maren, { owner: ada, team: TEAMS.north })).toBe(ada);
    expect(await owner()).toBe(priya);
    const away = { from: '2026-11-24', to: '2026-11-25', substitute: priya };
    await maren.send('PUT', `/people/${zoe}/absence`, away, 200);
    expect(await owner()).toBe(ada);
    const at = await Promise.all([owner(), owner(), owner(), owner()]);
    expect(at.sort()).toEqual([ada, ada, priya, priya].sort());
    test.clock.pass(3 * DAY);
    maren = await test.as('maren');
    expect([await owner(), await owner()]).toContain(zoe);
  });

  it('are nobody’s where nobody of the team is here, and are told beside the versions with what was so before', async () => {
    const { body: team } = await maren.post('/teams', { name: 'Nobody yet' }, 201);
    const process = await begin('To nobody');
    await maren.patch(`/processes/${process}`, {
      assignment: { by: 'turn', team: team.id },
      access: { teams: [TEAMS.south] },
    });
    expect((await deal(maren, process)).values).toMatchObject({ owner: null, team: team.id });
    const [entry] = (await maren.get(`/processes/${process}/log`)).body.items;
    expect(entry).toMatchObject({ what: 'settings', by: 'Maren Holt' });
    expect(entry.changes).toEqual([
      { part: 'seen by', before: 'everyone', after: 'south' },
      { part: 'new deals go', before: 'to whoever begins them', after: 'in turn over Nobody yet' },
    ]);
    await (await test.as('tomas')).get(`/processes/${process}/log`, 403);
  });
});
