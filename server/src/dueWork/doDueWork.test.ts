import { guided, result } from '@ladder/core/testing/steps.ts';
import { afterAll, beforeAll, beforeEach, describe, expect, it } from 'vitest';
import { startServer } from '../server.ts';
import type { Client } from '../testing/client.ts';
import { DAY } from '../testing/movableClock.ts';
import { asOwner } from '../testing/testDatabase.ts';
import {
  DOCUMENT,
  filled,
  publishFirst,
  stage,
  startTestServer,
  type TestServer,
  THREADS,
  testConfig,
} from '../testing/testServer.ts';
import { doDueWork } from './doDueWork.ts';

let test: TestServer;
let maren: Client;
beforeAll(async () => {
  test = await startTestServer();
});
beforeEach(async () => {
  maren = await test.as('maren');
});
afterAll(() => test.stop());

const waits = guided('wait', {
  byItself: { days: 5, result: 'silent' },
  results: [result('spoke', { to: 'finish' }), result('silent', { to: 'move_on' })],
});
const begin = async (name: string, asks = false) => {
  const enter = asks ? [filled('area', 'area')] : [];
  const process = await publishFirst(maren, {
    ...DOCUMENT,
    name,
    stages: [stage('a', 'Waiting', { steps: [waits] }), stage('b', 'Beyond', { enter })],
  });
  return (await maren.post('/deals', { process, name: 'Deal', values: {} }, 201)).body;
};
const present = async ({ id }: { id: string }) => (await maren.get(`/deals/${id}`)).body;
const ends = async ({ id }: { id: string }) =>
  (await maren.get(`/deals/${id}/journal`)).body.items.filter(({ kind }: { kind: string }) => kind === 'step_ended');

describe('what falls due', () => {
  it('is done once its instant is there, not before, and told as done by the process', async () => {
    const deal = await begin('Due');
    expect(deal.stepsAtHand[0].goesOn).toMatchObject({ result: 'silent' });
    test.clock.pass(5 * DAY - 1);
    await doDueWork(test.server.context);
    maren = await test.as('maren');
    expect((await present(deal)).stage).toBe('a');
    test.clock.pass(1);
    await doDueWork(test.server.context);
    expect(await present(deal)).toMatchObject({
      stage: 'b',
      stepsAtHand: [],
      stepsDone: [{ resultName: 'silent', by: 'the process' }],
    });
  });

  it('is done once by two servers on one database that come to it together', async () => {
    const deals = [];
    for (let place = 0; place < 6; place++) deals.push(await begin(`Together ${place}`));
    const other = await startServer(testConfig(test.database), test.clock, THREADS);
    test.clock.pass(6 * DAY);
    await Promise.all([doDueWork(test.server.context), doDueWork(other.context), doDueWork(test.server.context)]);
    await other.stop();
    maren = await test.as('maren');
    for (const deal of deals) expect(await ends(deal)).toHaveLength(1);
  });

  it('is found again after a server was ended in the middle of it', async () => {
    const deal = await begin('Cut off');
    test.clock.pass(6 * DAY);
    // The transaction ends with its connection: as if the server had been killed before it could commit.
    await asOwner(
      test.database,
      `create function cut() returns trigger language plpgsql as $$ begin perform pg_terminate_backend(pg_backend_pid()); return new; end $$;
       alter function cut() security definer;
       create trigger cut before insert on moves for each row when (new.deal_id = '${deal.id}') execute function cut()`,
    );
    await doDueWork(test.server.context);
    maren = await test.as('maren');
    expect(await present(deal)).toMatchObject({ stage: 'a', stepsAtHand: [{ step: 'wait' }] });
    await asOwner(test.database, 'drop trigger cut on moves; drop function cut()');
    await doDueWork(test.server.context);
    expect((await present(deal)).stage).toBe('b');
    expect(await ends(deal)).toHaveLength(1);
  });

  it('is withdrawn where someone ended the step before, and stands held where the gate holds its move', async () => {
    const spoken = await begin('Spoken');
    const body = { result: 'spoke', version: spoken.version.id, captures: [] };
    await maren.post(`/deals/${spoken.id}/steps/1/result`, body);
    const held = await begin('Held', true);
    const voided = await begin('Voided');
    await maren.post(`/deals/${voided.id}/void`, { text: 'A test' });
    test.clock.pass(9 * DAY);
    expect(await doDueWork(test.server.context)).toBe(1);
    maren = await test.as('maren');
    expect(await present(spoken)).toMatchObject({ stage: 'a', stepsDone: [{ resultName: 'spoke' }] });
    expect(await present(held)).toMatchObject({ stage: 'a', standing: 'held', stepsDone: [{ resultName: 'silent' }] });
    expect(await doDueWork(test.server.context)).toBe(0);
  });
});
