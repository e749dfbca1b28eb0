import type { DealId } from '@ladder/core';
import pg from 'pg';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { inCommand } from '../context.ts';
import { startServer } from '../server.ts';
import { Client } from '../testing/client.ts';
import {
  DOCUMENT,
  PASSWORD,
  publishFirst,
  saveAndPublish,
  startTestServer,
  type TestServer,
  THREADS,
  testConfig,
} from '../testing/testServer.ts';
import { lockDeals } from './repository/loadDeals.ts';

/* Many at once, on one server and on two whose clocks differ: everyone is answered, and nobody waits for ever. */

let test: TestServer;
let maren: Client;
beforeAll(async () => {
  test = await startTestServer();
  maren = await test.as('maren');
});
afterAll(() => test.stop());

const begin = async (more: object = {}, process = test.process) =>
  (await maren.post('/deals', { process, name: 'Deal', values: {}, ...more }, 201)).body;
const times = <T>(count: number, work: (place: number) => Promise<T>): Promise<T[]> =>
  Promise.all(Array.from({ length: count }, (_none, place) => work(place)));

describe('two servers', () => {
  it('whose clocks differ write after each other, and show what the other wrote', async () => {
    const behind = await startServer(testConfig(test.database), { now: () => test.clock.now() - 200 }, THREADS);
    const other = await Client.signIn(behind.url, 'maren@test.example', PASSWORD);
    const deal = await begin();
    let saw: string | null = null;
    for (let turn = 0; turn < 10; turn++) {
      const value = `Fair ${turn}`;
      const client = turn % 2 === 0 ? maren : other;
      const { body } = await client.patch(`/deals/${deal.id}`, {
        changes: [
          { field: 'source', saw, value },
          { field: 'owner', saw: ownerSeen(deal, turn), value: turn % 2 === 0 ? null : PRIYA },
        ],
      });
      expect(body.values.source).toBe(value);
      saw = value;
      test.clock.pass(1);
    }
    await behind.stop();
  });
});

const PRIYA = '01900000-0000-7000-8000-000000020003';
const ownerSeen = (deal: { values: { owner: string } }, turn: number): string | null =>
  turn === 0 ? deal.values.owner : turn % 2 === 0 ? PRIYA : null;

describe('what is changed together', () => {
  it('a contact, its customer and their deals: everyone is answered', async () => {
    const { body: customer } = await maren.post('/customers', { name: 'Busy', values: {} }, 201);
    const { body: contact } = await maren.post('/contacts', { customer: customer.id, name: 'Ann', values: {} }, 201);
    const values = { customer: customer.id, contact: contact.id };
    const deals = await times(8, () => begin({ values }));
    const asked = [
      ...Array.from({ length: 15 }, (_none, place) =>
        maren.send('PATCH', `/customers/${customer.id}`, { name: `Busy ${place}` }, 0),
      ),
      ...Array.from({ length: 15 }, (_none, place) =>
        maren.send('PATCH', `/contacts/${contact.id}`, { customer: customer.id, name: `Ann ${place}` }, 0),
      ),
      ...deals.map(({ id }) =>
        maren.send('PATCH', `/deals/${id}`, { changes: [{ field: 'contact', saw: contact.id, value: null }] }, 0),
      ),
    ];
    const answers = await Promise.all(asked);
    expect(answers.map(({ status }) => status)).toEqual(answers.map(() => 200));
  });

  it('two deals locked the wrong way round by two commands: both are done', async () => {
    const [a, b] = (await times(2, () => begin())).map(({ id }) => String(id)) as [string, string];
    let arrived = 0;
    const both = async () => {
      arrived++;
      for (let tries = 0; arrived < 2 && tries < 100; tries++) await new Promise((resolve) => setTimeout(resolve, 10));
    };
    const crossing = (first: string, second: string) =>
      inCommand(test.server.context, async (tx) => {
        await lockDeals(tx, [first as DealId]);
        await both();
        await lockDeals(tx, [second as DealId]);
        return 'done';
      });
    expect(await Promise.all([crossing(a, b), crossing(b, a)])).toEqual(['done', 'done']);
  });

  it('two imports that update the same deals in other orders, beside edits and a publish', async () => {
    const process = await publishFirst(maren, { ...DOCUMENT, name: 'Crossed' });
    const ids = Array.from({ length: 120 }, (_none, place) => `Z${place}`);
    const importing = async (order: readonly string[], source: string) => {
      const csv = `Id,Deal,Source\n${order.map((id) => `${id},${id},${source}`).join('\n')}\n`;
      const { body } = await maren.post(`/imports?fileName=a.csv&process=${process}`, csv, 201);
      await maren.post(`/imports/${body.import.id}/run`, { ...body.preview.settings, known: 'update' }, 202);
      return body.import.id;
    };
    const ended = async (id: string) => {
      await expect
        .poll(async () => (await maren.get(`/imports/${id}`)).body.state, { timeout: 30_000 })
        .not.toBe('running');
      return (await maren.get(`/imports/${id}`)).body;
    };
    await ended(await importing(ids, 'first'));
    const { body: list } = await maren.get(`/deals?process=${process}&limit=20`);
    await maren.post(`/processes/${process}/draft`, undefined, 201);
    const started = await Promise.all([importing(ids, 'second'), importing(ids.toReversed(), 'third')]);
    const edits = list.items.map(({ id }: { id: string }) =>
      maren.send('PATCH', `/deals/${id}`, { changes: [{ field: 'area', saw: null, value: 7 }] }, 0),
    );
    await saveAndPublish(maren, process, { ...DOCUMENT, name: 'Crossed', purpose: 'Again' });
    for (const id of started) expect(await ended(id)).toMatchObject({ state: 'done', updated: 120, failure: null });
    for (const { status } of await Promise.all(edits)) expect([200, 503]).toContain(status);
  });
});

describe('waiting for a lock', () => {
  it('keeps no one else from reading, nor from changing something else', async () => {
    const [held, free] = await times(2, () => begin());
    const holder = new pg.Client({ connectionString: test.database.ownerUrl });
    await holder.connect();
    await holder.query('begin');
    await holder.query('select from deal_heads where deal_id = $1 for update', [held.id]);
    const edit = (id: string, value: number) =>
      maren.send('PATCH', `/deals/${id}`, { changes: [{ field: 'area', saw: null, value }] }, 0);
    const waiting = Array.from({ length: 40 }, () => edit(held.id, 5));
    const meanwhile = await Promise.all([maren.get('/deals'), maren.get(`/deals/${free.id}`), edit(free.id, 9)]);
    expect(meanwhile.map(({ status }) => status)).toEqual([200, 200, 200]);
    await holder.query('commit');
    await holder.end();
    const answers = await Promise.all(waiting);
    // On a machine that is slow enough, whoever waited for five seconds is told to try again; nothing else is told.
    expect(answers.filter(({ status }) => status !== 200 && status !== 503).map(({ body }) => body)).toEqual([]);
    expect(answers.some(({ status }) => status === 200)).toBe(true);
    expect((await maren.get(`/deals/${held.id}`)).body.revision).toBe(2);
  });

  it('of an upload that comes slowly takes no connection: everyone else goes on', async () => {
    const clients = await Promise.all(
      ['maren', 'maren', 'maren'].map(() => Client.signIn(test.server.url, 'maren@test.example', PASSWORD)),
    );
    const bodies = clients.slice(0, 2).map(() => new TransformStream<Uint8Array, Uint8Array>());
    const uploads = bodies.map((body, place) =>
      (clients[place] as Client).send('POST', `/imports?fileName=slow.csv&process=${test.process}`, body.readable, 0),
    );
    const writers = bodies.map(({ writable }) => writable.getWriter());
    await Promise.all(writers.map((writer) => writer.write(new TextEncoder().encode('Name\n'))));
    expect((await maren.get('/deals')).status).toBe(200);
    await Promise.all(
      writers.map(async (writer) => {
        await writer.write(new TextEncoder().encode('One\n'));
        await writer.close();
      }),
    );
    expect((await Promise.all(uploads)).map(({ status }) => status)).toEqual([201, 201]);
  });
});
