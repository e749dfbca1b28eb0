import { USUAL_OUTCOMES } from '@ladder/core';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import type { Client } from '../testing/client.ts';
import { DAY } from '../testing/movableClock.ts';
import {
  DOCUMENT,
  filled,
  publishFirst,
  saveAndPublish,
  stage,
  startTestServer,
  type TestServer,
} from '../testing/testServer.ts';

let test: TestServer;
let maren: Client;
beforeAll(async () => {
  test = await startTestServer();
  maren = await test.as('maren');
});
afterAll(() => test.stop());

const [A, B, C] = [stage('a', 'First'), stage('b', 'Second'), stage('c', 'Third')];
const document = (name: string, stages: readonly (typeof A)[]) => ({
  ...DOCUMENT,
  name,
  skips: 'allow' as const,
  stages,
  outcomes: USUAL_OUTCOMES.deal,
});
const add = async (process: string, stageId: string, values: object = {}) =>
  (await maren.post('/deals', { process, name: 'Deal', stage: stageId, values }, 201)).body;
const dealOf = async (id: string) => (await maren.get(`/deals/${id}`)).body;
const move = async (id: string, to: string, expected = 200) => {
  const { revision } = await dealOf(id);
  return maren.post(`/deals/${id}/moves`, { target: { to: 'stage', stage: to }, revision, text: 'x' }, expected);
};
const draft = async (process: string, stages: readonly (typeof A)[], name: string) => {
  const { body } = await maren.post(`/processes/${process}/draft`, undefined, 201);
  const saved = await maren.send('PUT', `/processes/${process}/draft`, { document: document(name, stages) }, 200, {
    'If-Match': `"${body.revision}"`,
  });
  return Number(saved.body.revision);
};
const publish = (process: string, revision: number, how: object, expected = 200) =>
  maren.send(
    'POST',
    `/processes/${process}/draft/publish`,
    { deals: 'move_over', graceDays: 0, transfers: {}, ...how },
    expected,
    {
      'If-Match': `"${revision}"`,
    },
  );

describe('a stage that is removed', () => {
  it('while deals stay is asked for at the publish that moves them over, in preview and publish alike', async () => {
    const process = await publishFirst(maren, document('Staying', [A, B, C]));
    const deal = await add(process, 'a');
    await publish(process, await draft(process, [B, C], 'Staying'), { deals: 'stay' });
    const revision = await draft(process, [B, { ...C, name: 'Last' }], 'Staying');
    expect((await maren.get(`/processes/${process}/draft/preview`)).body.removedStages).toEqual([
      { id: 'a', name: 'First', openDeals: 1 },
    ]);
    const { body: problem } = await publish(process, revision, {}, 422);
    expect(problem.errors).toMatchObject([{ pointer: '/transfers/a' }]);
    await publish(process, revision, { transfers: { a: 'b' } });
    expect(await dealOf(deal.id)).toMatchObject({ stage: 'b', version: { number: 3 } });
  });

  it('can be gone back to by no taking back, and the deal still moves on (S11)', async () => {
    const process = await publishFirst(maren, document('Taking back', [A, B, C]));
    const deal = await add(process, 'a');
    await move(deal.id, 'b');
    await maren.post(`/processes/${process}/draft`, undefined, 201);
    await saveAndPublish(maren, process, document('Taking back', [B, C]));
    const { revision, takeBack } = await dealOf(deal.id);
    expect(takeBack).toBeNull();
    const { body: problem } = await maren.post(`/deals/${deal.id}/moves/take-back`, { revision }, 409);
    expect(problem.detail).toMatch(/no longer has the stage .* Move the deal to another stage instead/);
    await move(deal.id, 'c');
    expect((await dealOf(deal.id)).stage).toBe('c');
  });

  it('is left by no deal that moves into it while the publish is being prepared', async () => {
    const process = await publishFirst(maren, document('Racing', [A, B, C]));
    const deal = await add(process, 'b');
    const revision = await draft(process, [B, C], 'Racing');
    expect((await maren.get(`/processes/${process}/draft/preview`)).body.removedStages).toEqual([]);
    await move(deal.id, 'a');
    const { body: problem } = await publish(process, revision, {}, 422);
    expect(problem.errors).toMatchObject([{ pointer: '/transfers/a' }]);
    expect(await dealOf(deal.id)).toMatchObject({ stage: 'a', version: { number: 1 } });
  });

  it('is left with grace for what the new stage asks', async () => {
    const asking = { ...B, enter: [filled('crop', 'crop')] };
    const process = await publishFirst(maren, document('Grace', [A, asking]));
    const deal = await add(process, 'a');
    const revision = await draft(process, [asking], 'Grace');
    await publish(process, revision, { graceDays: 5, transfers: { a: 'b' } });
    expect((await dealOf(deal.id)).standing).toBe('flagged');
    test.clock.pass(5 * DAY);
    maren = await test.as('maren');
    expect((await dealOf(deal.id)).standing).toBe('held');
  });
});

describe('a publish that only rewords', () => {
  it('leaves held deals held, and an earlier grace as long as it was', async () => {
    const asking = (message: string) => [{ ...A, enter: [{ ...filled('crop', 'crop'), message }] }];
    const process = await publishFirst(maren, document('Wording', [A]));
    const deal = await add(process, 'a');
    await publish(process, await draft(process, asking('Please'), 'Wording'), { graceDays: 10 });
    const late = await add(process, 'a');
    expect([(await dealOf(deal.id)).standing, (await dealOf(late.id)).standing]).toEqual(['flagged', 'held']);
    const revision = await draft(process, asking('Which crop?'), 'Wording');
    expect((await maren.get(`/processes/${process}/draft/preview`)).body).toMatchObject({
      touchesGates: false,
      changes: [{ kind: 'requirement_reworded', requirement: 'crop' }],
    });
    await publish(process, revision, { graceDays: 0 });
    expect([(await dealOf(deal.id)).standing, (await dealOf(late.id)).standing]).toEqual(['flagged', 'held']);
    test.clock.pass(10 * DAY);
    maren = await test.as('maren');
    expect((await dealOf(deal.id)).standing).toBe('held');
  });
});

describe('deals begun while a publish goes on', () => {
  it('and the publish itself are all done, one after the other', async () => {
    const process = await publishFirst(maren, document('Busy', [A, B]));
    for (let place = 0; place < 30; place++) await add(process, 'a');
    const revision = await draft(process, [{ ...A, purpose: 'Begin' }, B], 'Busy');
    const [published, ...begun] = await Promise.all([
      publish(process, revision, {}),
      ...Array.from({ length: 8 }, () => add(process, 'a')),
    ]);
    expect(published.status).toBe(200);
    const versions = await Promise.all(begun.map(async ({ id }) => (await dealOf(id)).version.number));
    expect(new Set(versions)).toEqual(new Set([2]));
  });
});
