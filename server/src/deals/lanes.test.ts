import { localDay } from '@ladder/core';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import type { Client } from '../testing/client.ts';
import { DAY } from '../testing/movableClock.ts';
import { asOwner } from '../testing/testDatabase.ts';
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

const pounds = (minor: number, currency = 'GBP') => ({ minor, currency });
const add = async (values: object) =>
  (await maren.post('/deals', { process: test.process, name: 'Deal', values }, 201)).body;
const lanes = async (query = '', client = maren) => (await client.get(`/processes/${test.process}/lanes${query}`)).body;

describe('lanes', () => {
  it('total value and weighted value by stage, ages from the local day, and what is past its target', async () => {
    await add({ value: pounds(40_000_00), owner: PEOPLE.priya?.id });
    test.clock.pass(11 * DAY);
    await add({ value: pounds(10_00), owner: PEOPLE.bea?.id });
    const { stages, openDeals, minor, weightedMinor, pastTarget } = await lanes();
    expect({ openDeals, minor, weightedMinor, pastTarget }).toEqual({
      openDeals: 2,
      minor: 40_010_00,
      weightedMinor: 4_001_00,
      pastTarget: 1,
    });
    expect(stages[0]).toMatchObject({
      count: 2,
      medianAge: 5.5,
      ages: [
        { age: 0, count: 1 },
        { age: 11, count: 1 },
      ],
      cards: [{ age: 11, pastTarget: true, missing: 2 }, { age: 0 }],
    });
  });

  it('amounts in another currency count at the latest rate, each rounded half-even; without a rate they are told apart', async () => {
    await add({ value: pounds(101, 'EUR') });
    expect(await lanes()).toMatchObject({ minor: 40_010_00, withoutRate: 1 });
    await asOwner(
      test.database,
      `insert into rates values ('EUR', 'GBP', '2026-01-01', 0.9), ('EUR', 'GBP', '2026-11-01', 0.5)`,
    );
    expect(await lanes()).toMatchObject({ minor: 40_010_50, withoutRate: 0 });
  });

  it('tell a target of working days in calendar days, and past it only what really is', async () => {
    maren = await test.as('maren');
    const process = await publishFirst(maren, {
      ...DOCUMENT,
      name: 'Working days',
      stages: [stage('only', 'Only', { target: { days: 7, counting: 'working' } })],
    });
    await maren.post('/deals', { process, name: 'Deal', values: {} }, 201);
    const lane = async () => (await maren.get(`/processes/${process}/lanes`)).body.stages[0];
    const movement = async () => (await maren.get(`/processes/${process}/movement`)).body.stages[0];
    expect([(await lane()).targetDays, (await movement()).targetDays]).toEqual([10, 10]);
    const { body } = await maren.get(`/deals?process=${process}`);
    const days = (Date.parse(body.items[0].moveOnDay) - Date.parse(localDay(test.clock.now(), 'Europe/London'))) / DAY;
    test.clock.pass(days * DAY);
    maren = await test.as('maren');
    expect(await lane()).toMatchObject({ pastTarget: 0, ages: [{ age: days, past: 0 }] });
    test.clock.pass(DAY);
    maren = await test.as('maren');
    expect(await lane()).toMatchObject({ pastTarget: 1, ages: [{ age: days + 1, past: 1 }] });
    expect(await movement()).toMatchObject({ openPastTarget: 1 });
  });

  it('are narrowed by owner, team and standing, and a seller sees the team’s alone', async () => {
    expect((await lanes(`?team=${TEAMS.south}`)).openDeals).toBe(1);
    expect((await lanes(`?owner=${PEOPLE.priya?.id}`)).minor).toBe(40_000_00);
    expect(await lanes('?standing=held')).toMatchObject({ openDeals: 0, allOpenDeals: 3 });
    expect(await lanes('', await test.as('bea'))).toMatchObject({ openDeals: 1, allOpenDeals: 1 });
  });

  it('are at first those of the live process that most of the open deals are in that one sees', async () => {
    const other = await publishFirst(maren, { ...DOCUMENT, name: 'Busier' });
    const priya = await test.as('priya');
    for (let left = (await lanes('', maren)).openDeals; left >= 0; left--)
      await maren.post(
        '/deals',
        { process: other, name: 'Bea’s', values: { owner: PEOPLE.bea?.id, team: TEAMS.south } },
        201,
      );
    const [first, hers] = [(await maren.get('/lanes')).body, (await priya.get('/lanes?standing=clear')).body];
    expect([first.process.id, hers.process.id]).toEqual([other, test.process]);
    expect(first).toEqual((await maren.get(`/processes/${other}/lanes`)).body);
    expect(hers).toEqual(await lanes('?standing=clear', priya));
  });
});
