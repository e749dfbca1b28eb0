import { guided, result } from '@ladder/core/testing/steps.ts';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import type { Client } from '../testing/client.ts';
import { DAY } from '../testing/movableClock.ts';
import { DOCUMENT, PEOPLE, publishFirst, stage, startTestServer, type TestServer } from '../testing/testServer.ts';

let test: TestServer;
let maren: Client;
let process: string;
/** Deals by whose they are: Priya's two, Bea's one. */
let deals: { id: string; version: { id: string } }[];

const first = guided('first', {
  due: { days: 2, counting: 'calendar', after: 'arrival' },
  results: [result('yes'), result('no', { to: 'step', step: 'first' })],
});
const second = guided('second', {
  who: { by: 'role', role: 'manager' },
  due: { days: 1, counting: 'calendar', after: 'step_before' },
});

beforeAll(async () => {
  test = await startTestServer();
  const [priya, bea] = [await test.as('priya'), await test.as('bea')];
  maren = await test.as('maren');
  process = await publishFirst(maren, {
    ...DOCUMENT,
    name: 'Reported',
    stages: [stage('a', 'Brief', { steps: [first, second] }), stage('b', 'Survey')],
  });
  const begin = async (who: Client) => (await who.post('/deals', { process, name: 'Deal', values: {} }, 201)).body;
  deals = [await begin(priya), await begin(priya), await begin(bea)];
  const end = (who: Client, place: number, run: number, name: string) =>
    who.post(`/deals/${deals[place]?.id}/steps/${run}/result`, {
      result: name,
      version: deals[place]?.version.id,
      captures: [],
    });
  // On time by Priya; then, three days on, late by her and by Bea; the second step of the first deal is late now.
  await end(priya, 0, 1, 'yes');
  test.clock.pass(3 * DAY);
  await end(await test.as('priya'), 1, 1, 'no');
  await end(await test.as('bea'), 2, 1, 'yes');
  maren = await test.as('maren');
});
afterAll(() => test.stop());

const work = async (query = '', who = maren) => (await who.get(`/processes/${process}/work${query}`)).body;
const done = async (query = '', who = maren) => (await who.get(`/processes/${process}/steps-done${query}`)).body.items;
const runs = async (query: string, who = maren) =>
  (await who.get(`/processes/${process}/step-runs?${query}`)).body.items;

describe('the work on the steps of a process', () => {
  it('tells what was done, by step, person and result, and how much of it late', async () => {
    expect(
      (await done())
        .map(({ name, person, result: how, count, late }: Record<string, unknown>) => [
          name,
          (person as { name: string }).name,
          how,
          count,
          late,
        ])
        .sort(),
    ).toEqual([
      ['first', 'Bea Ferrant', 'yes', 1, 1],
      ['first', 'Priya Nandan', 'no', 1, 1],
      ['first', 'Priya Nandan', 'yes', 1, 0],
    ]);
  });

  it('tells where open deals stand, and what is past due by team and person', async () => {
    expect((await work()).standing).toMatchObject([
      { step: 'first', deals: 1, late: 1 },
      { step: 'second', deals: 2, late: 1 },
    ]);
    expect((await maren.get('/past-due')).body.items).toMatchObject([
      { team: { name: 'north' }, person: null, lateSteps: 1 },
      { team: { name: 'north' }, person: { name: 'Priya Nandan' }, lateSteps: 1, lateDeals: 1 },
    ]);
  });

  it('opens the runs behind each number, a page at a time', async () => {
    expect(await runs('state=open&late=yes')).toHaveLength(2);
    expect(await runs('state=open&step=second&person=none')).toHaveLength(2);
    const ended = await runs(`state=done&person=${PEOPLE.priya?.id}`);
    expect(ended.map(({ result: how, daysLate }: Record<string, unknown>) => [how, daysLate])).toEqual([
      ['no', 1],
      ['yes', 0],
    ]);
    const { body } = await maren.get(`/processes/${process}/step-runs?state=open&limit=2`);
    const { body: rest } = await maren.get(`/processes/${process}/step-runs?state=open&limit=2&after=${body.next}`);
    expect([body.items.length, rest.items.length, rest.next]).toEqual([2, 1, null]);
  });

  it('has its lists a page at a time too, each row on one page', async () => {
    for (const path of [`/processes/${process}/steps-done`, '/past-due']) {
      const { body: whole } = await maren.get(path);
      const rows: unknown[] = [];
      for (let after = ''; after !== null; ) {
        const { body } = await maren.get(`${path}?limit=1${after && `&after=${after}`}`);
        rows.push(...body.items);
        after = body.next;
      }
      expect(whole.items.length).toBeGreaterThan(1);
      expect(rows).toEqual(whole.items);
    }
  });

  it('is of what the person may see, and of the period and the team that are asked for', async () => {
    expect(await done('', await test.as('bea'))).toHaveLength(1);
    expect(await runs('state=open', await test.as('bea'))).toHaveLength(1);
    expect(await done('?from=2020-01-01&to=2020-02-01')).toEqual([]);
    expect((await work(`?owner=${PEOPLE.bea?.id}`)).standing).toMatchObject([{ step: 'second', deals: 1 }]);
    await maren.get(`/processes/${process}/work?from=2026-02-01&to=2026-01-01`, 400);
  });

  it('stands in the movement of its stage, with how often each result was', async () => {
    const { stages } = (await maren.get(`/processes/${process}/movement`)).body;
    expect(stages[0].steps).toEqual([
      {
        step: 'first',
        name: 'first',
        runs: 3,
        medianDays: 3,
        results: expect.arrayContaining([{ result: 'yes', name: 'yes', count: 2 }]),
      },
    ]);
  });

  it('counts in movement by whose the deal was as the step ended; reports go by whose it is now', async () => {
    const runsOf = async (query: string) =>
      (await maren.get(`/processes/${process}/movement${query}`)).body.stages[0].steps[0]?.runs ?? 0;
    const doneOf = async (owner: string | undefined) =>
      (await done(`?owner=${owner}`)).reduce((sum: number, { count }: { count: number }) => sum + count, 0);
    const [priya, bea] = [PEOPLE.priya?.id, PEOPLE.bea?.id];
    expect([await runsOf(`?owner=${bea}`), await runsOf(`?owner=${priya}`)]).toEqual([1, 2]);
    const { body: deal } = await maren.get(`/deals/${deals[2]?.id}`);
    const changes = [{ field: 'owner', saw: deal.values.owner, value: priya }];
    await maren.patch(`/deals/${deal.id}`, { changes });
    expect([await runsOf(`?owner=${bea}`), await runsOf(`?owner=${priya}`)]).toEqual([1, 2]);
    expect([await doneOf(bea), await doneOf(priya)]).toEqual([0, 3]);
  });

  it('forgets a result that was taken back, and those of a deal that is voided', async () => {
    const before = (await done()).length;
    await maren.post(`/deals/${deals[2]?.id}/steps/1/take-back`, {});
    expect(await done()).toHaveLength(before - 1);
    const { body: deal } = await maren.get(`/deals/${deals[1]?.id}`);
    await maren.post(`/deals/${deal.id}/void`, { text: 'Written twice' });
    const { stages } = (await maren.get(`/processes/${process}/movement`)).body;
    expect([(await done()).length, stages[0].steps[0].runs]).toEqual([1, 1]);
  });
});
