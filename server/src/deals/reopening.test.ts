import { USUAL_OUTCOMES } from '@ladder/core';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import type { Client } from '../testing/client.ts';
import { DAY } from '../testing/movableClock.ts';
import {
  DOCUMENT,
  publishFirst,
  saveAndPublish,
  stage,
  startTestServer,
  type TestServer,
} from '../testing/testServer.ts';

let test: TestServer;
let maren: Client;
let tomas: Client;
let priya: Client;
beforeAll(async () => {
  test = await startTestServer();
  [maren, tomas, priya] = [await test.as('maren'), await test.as('tomas'), await test.as('priya')];
});
afterAll(() => test.stop());

const WON = { to: 'outcome', outcome: 'won' };
const bare = (name: string, stages = ['a', 'b']) => ({
  ...DOCUMENT,
  name,
  outcomes: USUAL_OUTCOMES.deal,
  stages: stages.map((id) => stage(id, `Stage ${id}`)),
});

/** A deal that was moved to its second stage and won there. */
async function won(process: string) {
  const { body: begun } = await priya.post('/deals', { process, name: 'Deal', values: {} }, 201);
  const move = async (deal: { id: string; revision: number }, target: object) =>
    (await priya.post(`/deals/${deal.id}/moves`, { target, revision: deal.revision })).body.deal;
  return move(await move(begun, { to: 'stage', stage: 'b' }), WON);
}
const reopen = async (deal: { id: string }, expected = 200, client = tomas, text = 'They signed nothing') =>
  (await client.post(`/deals/${deal.id}/reopen`, { text }, expected)).body;
const entries = async ({ id }: { id: string }) => (await maren.get(`/deals/${id}/journal`)).body.items;
const figures = async (process: string) => (await maren.get(`/processes/${process}/movement`)).body;

describe('a closed deal', () => {
  it('is reopened by a manager with a reason; and Movement counts its closing no longer', async () => {
    const process = await publishFirst(maren, bare('Reopened'));
    const deal = await won(process);
    expect(deal.may.reopen).toBe(false);
    expect((await tomas.get(`/deals/${deal.id}`)).body.may.reopen).toBe(true);
    expect((await figures(process)).stages[1]).toMatchObject({ entered: 1, movedOn: 1, openDeals: 0 });
    test.clock.pass(2 * DAY);
    tomas = await test.as('tomas');
    maren = await test.as('maren');
    const open = await reopen(deal);
    expect(open).toMatchObject({ status: { state: 'open' }, stage: 'b', takeBack: null, may: { reopen: false } });
    expect((await figures(process)).stages[1]).toMatchObject({ entered: 1, movedOn: 0, openDeals: 1 });
    expect((await entries(deal))[0]).toMatchObject({ kind: 'reopened', text: 'They signed nothing' });
    await reopen(deal, 409);
  });

  it('is not reopened by its seller, by a manager of others, without a reason, or where it is void', async () => {
    const process = await publishFirst(maren, bare('Refused'));
    const deal = await won(process);
    await reopen(deal, 403, await test.as('priya'));
    expect((await reopen(deal, 400, tomas, '')).errors[0].pointer).toBe('/text');
    await maren.post(`/deals/${deal.id}/void`, { text: 'A test' });
    expect((await reopen(deal, 409)).detail).toContain('won or lost');
    await reopen({ id: '00000000-0000-4000-8000-000000000000' }, 404);
  });

  it('goes on in the live version once its own is past, and is told publishes only of its own time', async () => {
    const process = await publishFirst(maren, bare('Versions', ['a', 'b', 'c']));
    const deal = await won(process);
    for (const stages of [
      ['a', 'c', 'd'],
      ['a', 'd', 'c', 'e'],
    ]) {
      test.clock.pass(DAY);
      maren = await test.as('maren');
      await maren.post(`/processes/${process}/draft`, undefined, 201);
      await saveAndPublish(maren, process, bare('Versions', stages));
    }
    test.clock.pass(DAY);
    maren = await test.as('maren');
    tomas = await test.as('tomas');
    const open = await reopen(deal);
    expect(open).toMatchObject({ stage: 'a', version: { number: 3, state: 'live' } });
    const kinds = (await entries(deal)).map(({ kind }: { kind: string }) => kind);
    expect(kinds.slice(0, 2)).toEqual(['reopened', 'version_changed']);
    expect(kinds.filter((kind: string) => kind === 'version_changed')).toHaveLength(1);
    expect((await tomas.get(`/deals/${deal.id}`)).body).toEqual({ ...open, setting: expect.anything() });
  });

  it('goes on once, however often it is asked', async () => {
    const deal = await won(await publishFirst(maren, bare('Twice')));
    const both = await Promise.all([1, 2].map(() => tomas.post(`/deals/${deal.id}/reopen`, { text: 'On' }, 0)));
    expect(both.map(({ status }) => status).sort()).toEqual([200, 409]);
  });
});
