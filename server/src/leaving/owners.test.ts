import { newStep, USUAL_OUTCOMES } from '@ladder/core';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import type { Client } from '../testing/client.ts';
import { DAY } from '../testing/movableClock.ts';
import { DOCUMENT, PASSWORD, publishFirst, stage, startTestServer, type TestServer } from '../testing/testServer.ts';

let test: TestServer;
let maren: Client;
let tomas: Client;
let process: string;
const PEOPLE: Record<string, string> = {};
const DESIGN = {
  ...DOCUMENT,
  name: 'Owners',
  outcomes: USUAL_OUTCOMES.deal,
  stages: [
    stage('a', 'First', {
      steps: [newStep('look', 'Look at it', { id: 'done', name: 'Done' })],
    }),
  ],
};
beforeAll(async () => {
  test = await startTestServer();
  [maren, tomas] = [await test.as('maren'), await test.as('tomas')];
  for (const { id, name } of (await maren.get('/people')).body.items) PEOPLE[name.split(' ')[0].toLowerCase()] = id;
  const { items: teams } = (await maren.get('/teams')).body;
  const teamOf = (name: string) => teams.find((team: { name: string }) => team.name.includes(name)).id;
  for (const [name, team] of [
    ['Oskar Lind', 'orth'],
    ['Jun Aoki', 'outh'],
    ['Maud Ellery', 'outh'],
  ] as const) {
    const who = name.split(' ')[0]?.toLowerCase() ?? '';
    const account = { name, email: `${who}@test.example`, role: 'seller', teams: [teamOf(team)], password: PASSWORD };
    PEOPLE[who] = (await maren.post('/people', account, 201)).body.id;
  }
  process = await publishFirst(maren, DESIGN);
});
afterAll(() => test.stop());

/** A deal of someone with a task of theirs and the step of its stage. */
async function dealOf(who: string): Promise<{ id: string; name: string }> {
  const client = await test.as(who);
  const { body: deal } = await client.post('/deals', { process, name: `Deal of ${who}`, values: {} }, 201);
  const task = { title: 'Ring back', assignee: PEOPLE[who], dueDay: '2026-12-01' };
  await client.post(`/deals/${deal.id}/tasks`, task, 201);
  return deal;
}
const GO = { tasks: 'go', steps: 'go', waivers: 'go', watchers: 'keep' };
const read = async ({ id }: { id: string }) => (await maren.get(`/deals/${id}`)).body;
const stepHolder = ({ stepsAtHand: [step] }: { stepsAtHand: { person: object }[] }) => JSON.stringify(step?.person);
const reassign = async (deals: { id: string }[], more: object, expected = 200, client = maren) =>
  (await client.post('/deals/reassign', { deals: deals.map(({ id }) => id), team: 'keep', ...GO, ...more }, expected))
    .body;

describe('deals that change their owner (S32)', () => {
  it('take open tasks and steps along, and say so in their journals', async () => {
    const deals = [await dealOf('priya'), await dealOf('priya')];
    expect(await reassign(deals, { owner: PEOPLE.oskar })).toEqual({ deals: 2, owner: 'Oskar Lind' });
    for (const deal of deals) {
      const after = await read(deal);
      expect(after.values.owner).toBe(PEOPLE.oskar);
      expect(after.tasks[0].person.id).toBe(PEOPLE.oskar);
      expect(stepHolder(after)).toContain('Oskar');
      const [told] = (await maren.get(`/deals/${deal.id}/journal`)).body.items;
      expect(told.body).toMatchObject({ kind: 'reassigned', tasks: 1, steps: 1 });
    }
  });

  it('leave them with the owner before where that is chosen, unless these could not see the deal any more', async () => {
    const deal = await dealOf('priya');
    const stay = { tasks: 'stay', steps: 'stay', waivers: 'stay' };
    const refused = await reassign([deal], { owner: PEOPLE.bea, team: 'owners', ...stay }, 422);
    expect(refused.errors.map(({ pointer }: { pointer: string }) => pointer)).toEqual(['/tasks', '/steps']);
    expect((await read(deal)).values.owner).toBe(PEOPLE.priya);
    await reassign([deal], { owner: PEOPLE.oskar, ...stay });
    const after = await read(deal);
    expect(after.tasks[0].person.id).toBe(PEOPLE.priya);
    expect(stepHolder(after)).toContain('Priya');
  });

  it('change all or none, and only by someone who may, to someone who can', async () => {
    const [own, other] = [await dealOf('priya'), await dealOf('bea')];
    const priya = await test.as('priya');
    await reassign([own, other], { owner: PEOPLE.oskar }, 404, priya);
    expect((await read(own)).values.owner).toBe(PEOPLE.priya);
    await reassign([own], { owner: PEOPLE.lena }, 400);
    await reassign([own], { owner: PEOPLE.oskar }, 403, await test.as('lena'));
  });
});

describe('someone who is away (S60)', () => {
  it('hands their day to another for that time, and what these do is told as done for them', async () => {
    const deal = await dealOf('bea');
    await (await test.as('priya')).get(`/deals/${deal.id}`, 404);
    const absence = { from: '2026-11-24', to: '2026-11-25', substitute: PEOPLE.priya };
    await (await test.as('bea')).send('PUT', `/people/${PEOPLE.bea}/absence`, absence, 200);
    const priya = await test.as('priya');
    const day = (await priya.get('/today')).body;
    expect(day.whose.alsoFor).toEqual([{ id: PEOPLE.bea, name: 'Bea Ferrant' }]);
    expect(day.items.map((entry: { deal: { id: string } }) => entry.deal.id)).toContain(deal.id);
    await priya.post(`/deals/${deal.id}/activities`, { kind: 'call', text: 'Rang them' }, 201);
    const [told] = (await priya.get(`/deals/${deal.id}/journal`)).body.items;
    expect(told).toMatchObject({ by: 'Priya Nandan', body: { insteadOf: PEOPLE.bea } });
    expect(told.says.at(-1).text).toBe(', for Bea Ferrant');
    test.clock.pass(2 * DAY);
    await (await test.as('priya')).get(`/deals/${deal.id}`, 404);
  });

  it('is marked by themselves, their manager or an administrator, for days to come, with someone who is there', async () => {
    const put = async (client: Client, who: string, body: object, expected: number) =>
      (await client.send('PUT', `/people/${PEOPLE[who]}/absence`, body, expected)).body;
    const week = { from: '2026-12-01', to: '2026-12-05', substitute: PEOPLE.oskar };
    const [priya, lead] = [await test.as('priya'), await test.as('maren')];
    await put(await test.as('oskar'), 'bea', week, 403);
    await put(lead, 'priya', week, 200);
    await put(priya, 'priya', { ...week, to: '2026-11-30' }, 422);
    await put(priya, 'priya', { ...week, substitute: PEOPLE.priya }, 422);
    const refusal = async (who: string, substitute: string | undefined) =>
      (await put(await test.as(who), who, { ...week, substitute }, 422)).detail;
    expect(await refusal('jun', PEOPLE.priya)).toContain('Priya Nandan is away then too');
    expect(await refusal('oskar', PEOPLE.jun)).toContain('Priya Nandan is away then, and leans on them');
    await priya.send('DELETE', `/people/${PEOPLE.priya}/absence`, undefined, 200);
    expect((await priya.get('/absences')).body.items).toEqual([]);
  });
});

describe('someone who leaves', () => {
  it('is emptied: every open deal, follow-up, task, step and request is another’s or withdrawn, and they sign in no more', async () => {
    maren = await test.as('maren');
    tomas = await test.as('tomas');
    const [own, lost, of] = [await dealOf('jun'), await dealOf('jun'), await dealOf('bea')];
    const jun = await test.as('jun');
    const closing = {
      target: { to: 'outcome', outcome: 'lost' },
      revision: 1,
      followUp: '2027-01-11',
      tasks: 'cancel',
    };
    await jun.post(`/deals/${lost.id}/moves`, closing);
    const task = { title: 'Look at the drawing', assignee: PEOPLE.jun, dueDay: '2026-12-01' };
    await jun.post(`/deals/${of.id}/tasks`, task, 201);
    const holdings = (await maren.get(`/accounts/${PEOPLE.jun}/holdings`)).body;
    expect(holdings).toMatchObject({ openDeals: 1, followUps: 1, others: 1, tasks: 2, named: [] });
    await tomas.post(`/accounts/${PEOPLE.jun}/leaving`, { to: PEOPLE.bea }, 403);
    await maren.post(`/accounts/${PEOPLE.jun}/leaving`, { to: PEOPLE.jun }, 422);
    const { body: account } = await maren.post(`/accounts/${PEOPLE.jun}/leaving`, { to: PEOPLE.bea });
    expect(account.active).toBe(false);
    for (const deal of [own, lost]) expect((await read(deal)).values.owner).toBe(PEOPLE.bea);
    expect((await read(of)).tasks.map((one: { person: { id: string } }) => one.person.id)).toEqual([
      PEOPLE.bea,
      PEOPLE.bea,
    ]);
    const after = (await maren.get(`/accounts/${PEOPLE.jun}/holdings`)).body;
    expect(Object.values(after).filter((count) => typeof count === 'number' && count > 0)).toEqual([]);
    await jun.get('/deals', 401);
    expect((await maren.get('/settings/log')).body.items[0]).toMatchObject({ subject: 'Jun Aoki', what: 'account' });
  });

  it('stays while a step of a live process names them, and that is said', async () => {
    const [look] = DESIGN.stages[0]?.steps ?? [];
    const named = { ...look, who: { by: 'person', person: PEOPLE.maud } } as never;
    const document = { ...DESIGN, name: 'Named', stages: [stage('a', 'First', { steps: [named] })] };
    await publishFirst(maren, document);
    const refused = (await maren.post(`/accounts/${PEOPLE.maud}/leaving`, { to: PEOPLE.bea }, 422)).body;
    expect(refused.detail).toContain('is named in the step “Look at it” of Named');
  });
});
