import { afterAll, beforeAll, expect, it } from 'vitest';
import type { Client } from '../testing/client.ts';
import { asOwner } from '../testing/testDatabase.ts';
import { DOCUMENT, startTestServer, type TestServer } from '../testing/testServer.ts';

let test: TestServer;
let maren: Client;
beforeAll(async () => {
  test = await startTestServer();
  maren = await test.as('maren');
  for (let place = 0; place < 12; place++)
    await maren.post('/deals', { process: test.process, name: `Deal ${place}`, values: {} }, 201);
});
afterAll(() => test.stop());

const ASYNC = { Prefer: 'respond-async' };
const terms = { deals: 'move_over', graceDays: 0, transfers: {} };
const ended = async (id: string) => {
  await expect.poll(async () => (await maren.get(`/work/${id}`)).body.state, { timeout: 20_000 }).not.toBe('running');
  return (await maren.get(`/work/${id}`)).body;
};

async function draft(name: string): Promise<Record<string, string>> {
  const begun = await maren.post(`/processes/${test.process}/draft`, undefined, 0);
  const { body } = begun.status === 201 ? begun : await maren.get(`/processes/${test.process}/draft`);
  const document = { ...DOCUMENT, purpose: name };
  const saved = await maren.send('PUT', `/processes/${test.process}/draft`, { document }, 200, {
    'If-Match': `"${body.revision}"`,
  });
  return { 'If-Match': `"${saved.body.revision}"` };
}

/** Holds the process while something is asked, as someone who is just beginning a deal would. */
async function whileHeld<T>(ask: () => Promise<T>): Promise<T> {
  const holding = test.server.context.dataSource.createQueryRunner();
  await holding.startTransaction();
  await holding.query(`select from processes for share`);
  try {
    return await ask();
  } finally {
    await holding.rollbackTransaction();
    await holding.release();
  }
}

it('a caller who prefers it is answered at once and reads on; the outcome is kept', async () => {
  const { body, headers } = await maren.post(`/processes/${test.process}/draft/publish`, terms, 202, {
    ...(await draft('one')),
    ...ASYNC,
  });
  expect(headers.get('Preference-Applied')).toBe('respond-async');
  expect(body).toMatchObject({ kind: 'publish', subject: test.process, by: 'Maren Holt', total: null });
  // How many are looked at in the end hangs on what else the database server has under way.
  const outcome = await ended(body.id);
  expect(outcome).toMatchObject({ state: 'done', done: outcome.total ?? 0, deals: 12 });
  const { body: listed } = await maren.get(`/work?subject=${test.process}&limit=1`);
  expect(listed.items[0].id).toBe(body.id);
});

it('the same press again, its answer lost, is the same work', async () => {
  const headers = { ...(await draft('two')), 'Idempotency-Key': 'press' };
  const first = await maren.post(`/processes/${test.process}/draft/publish`, terms, 202, { ...headers, ...ASYNC });
  const again = await maren.post(`/processes/${test.process}/draft/publish`, terms, 200, headers);
  expect(again.body).toMatchObject({ movedDeals: 12, version: { state: 'live' } });
  expect(
    (await maren.get(`/work?subject=${test.process}`)).body.items.filter(
      ({ id }: { id: string }) => id === first.body.id,
    ),
  ).toHaveLength(1);
});

it('a second work with the same subject is told to wait, and a cancelled one leaves all as it was', async () => {
  const headers = await draft('three');
  const work = await whileHeld(async () => {
    const { body } = await maren.post(`/processes/${test.process}/draft/publish`, terms, 202, { ...headers, ...ASYNC });
    const rules = { past_target: 'hold', idle: 'off', close_date_past: 'off', no_next_action: 'off', step_late: 'off' };
    const refused = await maren.send('PATCH', `/processes/${test.process}`, { houseRules: rules }, 409);
    expect(refused.body.detail).toMatch(/under way/);
    expect((await maren.post(`/work/${body.id}/cancel`, undefined, 202)).body.cancel).toBe('asked');
    return body.id;
  });
  expect(await ended(work)).toMatchObject({ state: 'cancelled', deals: null });
  await maren.post(`/work/${work}/cancel`, undefined, 409);
  const { body } = await maren.get(`/processes/${test.process}`);
  expect([body.hasDraft, body.live.document.purpose]).toEqual([true, 'two']);
});

it('what has become wrong meanwhile is told as it would have been at once', async () => {
  const { body } = await maren.post(
    '/processes',
    { name: 'Other', kind: 'deal', currency: 'GBP', firstStage: 'x' },
    201,
  );
  const path = `/processes/${body.id}/draft`;
  const { body: begun } = await maren.get(path);
  await asOwner(
    test.database,
    `create function later() returns trigger language plpgsql security definer as
    'begin update process_versions set revision = revision + 1 where state = ''draft''; return new; end'`,
  );
  await asOwner(test.database, `create trigger later after insert on long_work for each row execute function later()`);
  const answer = await maren.post(`${path}/publish`, terms, 412, { 'If-Match': `"${begun.revision}"` });
  expect(answer.body.detail).toMatch(/Someone else saved this draft/);
});

it('nobody but administrators reads or cancels it', async () => {
  const { body } = await maren.get('/work');
  for (const who of ['tomas', 'priya', 'lena']) {
    const caller = await test.as(who);
    await caller.get('/work', 403);
    await caller.get(`/work/${body.items[0].id}`, 403);
    await caller.post(`/work/${body.items[0].id}/cancel`, undefined, 403);
  }
});
