import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { Client } from '../testing/client.ts';
import { PASSWORD, PEOPLE, startTestServer, TEAMS, type TestServer } from '../testing/testServer.ts';

let test: TestServer;
let maren: Client;
beforeAll(async () => {
  test = await startTestServer();
  maren = await test.as('maren');
});
afterAll(() => test.stop());

const idOf = (name: string): string => PEOPLE[name]?.id ?? '';
const pointers = (body: { errors: { pointer: string }[] }) => body.errors.map(({ pointer }) => pointer);
const signIn = (email: string, password: string) => Client.signIn(test.server.url, email, password);
const newPerson = {
  name: 'Jun Aoki',
  email: 'Jun@test.example',
  role: 'seller',
  teams: [TEAMS.south],
  password: PASSWORD,
};

describe('people', () => {
  it('are added with a role and teams, and sign in whatever the case of their address', async () => {
    const { body } = await maren.post('/people', newPerson, 201);
    expect(body).toMatchObject({ name: 'Jun Aoki', role: 'seller', teams: [TEAMS.south] });
    const jun = await signIn('jun@TEST.example', PASSWORD);
    expect((await jun.get('/session')).body.person).toMatchObject({ id: body.id, teams: [TEAMS.south] });
  });

  it('have an address of their own, teams that exist and a password of ten characters', async () => {
    const { body: taken } = await maren.post('/people', { ...newPerson, email: 'JUN@test.example' }, 409);
    expect(taken.detail).toContain('e-mail address');
    const { body } = await maren.post('/people', { ...newPerson, email: 'no address', password: 'short' }, 400);
    expect(pointers(body).sort()).toEqual(['/email', '/password']);
    const nowhere = { ...newPerson, email: 'x@test.example', teams: ['00000000-0000-4000-8000-000000000000'] };
    expect(pointers((await maren.post('/people', nowhere, 400)).body)).toEqual(['/teams']);
    expect((await maren.get('/accounts?find=x@test')).body.items).toEqual([]);
  });

  it('change teams, and see other deals at once', async () => {
    const bea = await test.as('bea');
    const { body: deal } = await maren.post(
      '/deals',
      { process: test.process, name: 'North block', values: { owner: idOf('priya') } },
      201,
    );
    await bea.get(`/deals/${deal.id}`, 404);
    const { body } = await maren.patch(`/accounts/${idOf('bea')}`, { teams: [TEAMS.south, TEAMS.north, TEAMS.north] });
    expect(body.teams).toEqual([TEAMS.north, TEAMS.south]);
    await bea.get(`/deals/${deal.id}`, 200);
  });

  it('whose role changes may do what the new one may', async () => {
    const lena = await test.as('lena');
    const deal = { process: test.process, name: 'Deal', values: {} };
    await lena.post('/deals', deal, 403);
    await maren.patch(`/accounts/${idOf('lena')}`, { role: 'manager' });
    await lena.post('/deals', deal, 201);
  });

  it('who may no longer sign in are signed out everywhere, keep their deals and are offered no longer', async () => {
    const bea = await test.as('bea');
    const { body: deal } = await bea.post('/deals', { process: test.process, name: 'Hers', values: {} }, 201);
    await maren.patch(`/accounts/${idOf('bea')}`, { active: false });
    await bea.get('/processes', 401);
    await Client.anonymous(test.server.url).send(
      'POST',
      '/session',
      { email: 'bea@test.example', password: PASSWORD },
      401,
    );
    expect((await maren.get(`/deals/${deal.id}`)).body.names[idOf('bea')]).toBe('Bea Ferrant');
    expect((await maren.get('/people?find=bea')).body.items).toEqual([]);
    expect((await maren.get('/accounts?find=bea')).body.items).toMatchObject([{ active: false }]);
  });

  it('with a new password sign in anew, with that one only', async () => {
    const tomas = await signIn('tomas@test.example', PASSWORD);
    await maren.patch(`/accounts/${idOf('tomas')}`, { password: 'another long one' });
    await tomas.get('/processes', 401);
    await (await signIn('tomas@test.example', 'another long one')).get('/processes');
  });

  it('the last administrator stays one, also of two who are asked at once', async () => {
    const { body } = await maren.patch(`/accounts/${idOf('maren')}`, { role: 'viewer' }, 422);
    expect(pointers(body)).toEqual(['/role']);
    await maren.patch(`/accounts/${idOf('maren')}`, { active: false }, 422);
    await maren.patch(`/accounts/${idOf('lena')}`, { role: 'administrator' });
    const lena = await signIn('lena@test.example', PASSWORD);
    const change = { role: 'viewer' };
    const statuses = await Promise.all([
      maren.send('PATCH', `/accounts/${idOf('lena')}`, change, 0),
      lena.send('PATCH', `/accounts/${idOf('maren')}`, change, 0),
    ]);
    expect(statuses.filter(({ status }) => status === 200)).toHaveLength(1);
  });

  it('nobody who does not exist is changed', async () => {
    const administrator = (await maren.get('/session')).body.person.role === 'administrator' ? 'maren' : 'lena';
    const client = await signIn(`${administrator}@test.example`, PASSWORD);
    await client.patch('/accounts/00000000-0000-4000-8000-000000000000', { name: 'x' }, 404);
    await client.patch(`/accounts/${idOf('priya')}`, { name: '' }, 400);
  });
});

describe('teams', () => {
  it('are added and renamed, each with a name of its own, whatever its case', async () => {
    const fresh = await startTestServer();
    const administrator = await fresh.as('maren');
    const { body: team } = await administrator.post('/teams', { name: 'Public gardens' }, 201);
    await administrator.post('/teams', { name: 'PUBLIC gardens' }, 409);
    await administrator.patch(`/teams/${TEAMS.south}`, { name: 'public GARDENS' }, 409);
    expect((await administrator.patch(`/teams/${team.id}`, { name: 'Parks' })).body).toEqual({
      id: team.id,
      name: 'Parks',
    });
    expect((await administrator.get('/teams?find=park')).body.items).toEqual([{ id: team.id, name: 'Parks' }]);
    await administrator.patch('/teams/00000000-0000-4000-8000-000000000000', { name: 'x' }, 404);
    await fresh.stop();
  });
});
