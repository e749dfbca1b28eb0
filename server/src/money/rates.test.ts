import { USUAL_OUTCOMES } from '@ladder/core';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import type { Client } from '../testing/client.ts';
import { DAY } from '../testing/movableClock.ts';
import { DOCUMENT, publishFirst, stage, startTestServer, type TestServer } from '../testing/testServer.ts';

let test: TestServer;
let maren: Client;
beforeAll(async () => {
  test = await startTestServer();
  maren = await test.as('maren');
});
afterAll(() => test.stop());

const set = (from: string, to: string, day: string, rate: number, expected = 200) =>
  maren.send('PUT', '/rates', { from, to, day, rate }, expected);
const add = async (process: string, minor: number, currency: string, stageId = 'brief') =>
  (await maren.post('/deals', { process, name: 'Deal', stage: stageId, values: { value: { minor, currency } } }, 201))
    .body;

describe('exchange rates', () => {
  it('are listed page by page, the latest first; the same day again takes the place of the rate it had', async () => {
    await set('EUR', 'GBP', '2026-11-01', 0.8);
    await set('EUR', 'GBP', '2026-11-02', 0.9);
    await set('EUR', 'GBP', '2026-11-02', 0.85);
    await set('BHD', 'GBP', '2026-11-02', 2);
    const { body: first } = await maren.get('/rates?limit=2');
    const { body: second } = await maren.get(`/rates?limit=2&after=${first.next}`);
    expect([...first.items, ...second.items]).toEqual([
      { from: 'BHD', to: 'GBP', day: '2026-11-02', rate: 2 },
      { from: 'EUR', to: 'GBP', day: '2026-11-02', rate: 0.85 },
      { from: 'EUR', to: 'GBP', day: '2026-11-01', rate: 0.8 },
    ]);
    expect(second.next).toBeNull();
  });

  it.each([
    ['EUX', 'GBP', '2026-11-02', 1, '/from'],
    ['EUR', 'EUR', '2026-11-02', 1, '/to'],
    ['EUR', 'GBP', '2026-02-30', 1, '/day'],
    ['EUR', 'GBP', '2026-11-25', 1, '/day'],
    ['EUR', 'GBP', '2026-11-02', 0, '/rate'],
    ['EUR', 'GBP', '2026-11-02', -1, '/rate'],
  ])('refuse %s to %s on %s at %d', async (from, to, day, rate, pointer) => {
    const { body } = await set(from, to, day, rate, 400);
    expect(body.errors.map((error: { pointer: string }) => error.pointer)).toEqual([pointer]);
  });

  /* ISO 4217: the dinar of Bahrain has 1,000 fils, the yen no smaller unit. */
  it('tell totals of every measure in the organisation’s currency, minor units and direction minded', async () => {
    const process = await publishFirst(maren, { ...DOCUMENT, name: 'Abroad', stages: [stage('brief', 'Brief')] });
    await add(process, 1_000, 'BHD');
    await add(process, 101, 'EUR');
    const lanes = async () => (await maren.get(`/processes/${process}/lanes`)).body;
    expect(await lanes()).toMatchObject({ minor: 200 + 86, withoutRate: 0 });
    await add(process, 500, 'JPY');
    expect(await lanes()).toMatchObject({ minor: 286, withoutRate: 1 });
    await set('GBP', 'JPY', '2026-11-03', 200);
    expect(await lanes()).toMatchObject({ minor: 286 + 250, withoutRate: 0 });
  });

  it('count held deals and what closed this month in it too', async () => {
    const ask = { id: 'area', level: 'hold', binds: 'must_stay', kind: 'field', field: 'area' } as const;
    const process = await publishFirst(maren, {
      ...DOCUMENT,
      name: 'Held abroad',
      stages: [stage('brief', 'Brief', { enter: [ask] })],
      outcomes: USUAL_OUTCOMES.deal,
    });
    const deal = await add(process, 2_000, 'BHD');
    await add(process, 1_000, 'CHF');
    const held = async () => (await maren.get(`/processes/${process}/compliance`)).body;
    expect(await held()).toMatchObject({ heldMinor: 400, heldWithoutRate: 1, all: { held: 2 } });
    await maren.post(`/deals/${deal.id}/moves`, { target: { to: 'outcome', outcome: 'won' }, revision: deal.revision });
    await set('BHD', 'GBP', '2026-11-24', 3);
    expect((await maren.get(`/processes/${process}/lanes`)).body.outcomes[0]).toMatchObject({
      id: 'won',
      count: 1,
      minor: 400,
    });
  });

  it('judge again the deals whose gate compares amounts, once there is a rate', async () => {
    const atLeast = {
      id: 'worth',
      level: 'flag',
      binds: 'must_stay',
      kind: 'criterion',
      criterion: {
        kind: 'at_least',
        left: { of: 'field', field: 'value' },
        right: { of: 'value', value: { minor: 100_00, currency: 'GBP' } },
      },
    } as const;
    const process = await publishFirst(maren, {
      ...DOCUMENT,
      name: 'Worth while',
      stages: [stage('brief', 'Brief', { enter: [atLeast] })],
    });
    const deal = await add(process, 1_000_00, 'SEK');
    const present = async () => (await maren.get(`/deals/${deal.id}`)).body;
    expect((await present()).standing).toBe('flagged');
    test.clock.pass(DAY);
    maren = await test.as('maren');
    await set('SEK', 'GBP', '2026-11-25', 0.08);
    expect((await present()).standing).toBe('flagged');
    await set('SEK', 'GBP', '2026-11-25', 0.1);
    expect((await present()).standing).toBe('clear');
  });
});
