import { type AddressInfo, createServer } from 'node:net';
import pg from 'pg';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { inCommand } from '../context.ts';
import { type RunningServer, startServer } from '../server.ts';
import { Client } from '../testing/client.ts';
import { type CuttableProxy, cuttableProxy } from '../testing/cuttableProxy.ts';
import { asOwner } from '../testing/testDatabase.ts';
import { PASSWORD, startTestServer, type TestServer, THREADS, testConfig } from '../testing/testServer.ts';
import { isConnectionLost, OutcomeUnknown } from './failures.ts';
import { sql } from './sql.ts';

/* The database goes away and comes back: what was promised holds, and the server is still there. */

let test: TestServer;
let proxy: CuttableProxy;
let server: RunningServer;
let maren: Client;
beforeAll(async () => {
  test = await startTestServer();
  proxy = await cuttableProxy(test.database.serverUrl);
  server = await startServer({ ...testConfig(test.database), databaseUrl: proxy.url }, test.clock, THREADS);
  maren = await Client.signIn(server.url, 'maren@test.example', PASSWORD);
});
afterAll(async () => {
  await server.stop();
  await proxy.stop();
  await test.stop();
});

const eventually = async (ask: () => Promise<unknown>, wanted: unknown) =>
  expect.poll(ask, { timeout: 60_000, interval: 200 }).toEqual(wanted);

describe('while the database is gone', () => {
  it('requests are told to ask again, and are answered when it is back', async () => {
    await proxy.cut();
    const answer = await maren.get('/deals', 503);
    expect(answer.headers.get('Retry-After')).toBe('5');
    expect(answer.body.detail).toMatch(/database does not answer.*Nothing was changed/);
    expect((await maren.get('/health', 503)).body.detail).toBe('The database does not answer.');
    await proxy.restore();
    await eventually(async () => (await maren.send('GET', '/deals', undefined, 0)).status, 200);
  });

  it('an import that was cut off begins again by itself, and is there once', async () => {
    const rows = Array.from({ length: 3_000 }, (_none, place) => `C${place},Cut ${place}`);
    const { body } = await maren.post(
      `/imports?fileName=a.csv&process=${test.process}`,
      `Id,Deal\n${rows.join('\n')}\n`,
      201,
    );
    await maren.post(`/imports/${body.import.id}/run`, body.preview.settings, 202);
    const readSoFar = async () =>
      Number(
        (await asOwner(test.database, `select done from long_work where subject = $1`, [body.import.id])).rows[0].done,
      );
    await expect.poll(readSoFar, { timeout: 20_000, interval: 20 }).toBeGreaterThan(0);
    await proxy.cut();
    await proxy.restore();
    const state = async () => (await maren.send('GET', `/imports/${body.import.id}`, undefined, 0)).body.state;
    await eventually(state, 'done');
    const { rows: counted } = await asOwner(
      test.database,
      `select count(*)::int as deals from deals where external_id like 'C%'`,
    );
    expect(counted[0].deals).toBe(3_000);
  });
});

describe('a connection that is lost', () => {
  it('as a transaction commits is told as unknown, not as nothing changed', async () => {
    await asOwner(
      test.database,
      `create table losing (id integer);
       create function lose() returns trigger language plpgsql security definer as
         'begin perform pg_terminate_backend(pg_backend_pid()); return null; end';
       create constraint trigger lose after insert on losing deferrable initially deferred for each row execute function lose();
       grant insert on losing to ladder_server`,
    );
    const losing = inCommand(server.context, (tx) => sql(tx, 'insert into losing values (1)'));
    await expect(losing).rejects.toBeInstanceOf(OutcomeUnknown);
  });

  it('before a transaction commits is told as a database that is gone: nothing was sent', async () => {
    const losing = inCommand(server.context, async (tx) => {
      const [backend] = await sql<{ pid: number }>(tx, `select pg_backend_pid() as pid`);
      await asOwner(test.database, `select pg_terminate_backend($1)`, [backend?.pid]);
      await expect.poll(() => tx.queryRunner?.isReleased).toBe(true);
    });
    await expect(losing).rejects.toSatisfy(isConnectionLost);
    await expect(losing).rejects.not.toBeInstanceOf(OutcomeUnknown);
  });

  it('is safe to ask again with the same key', async () => {
    const key = { 'Idempotency-Key': 'lost' };
    const deal = { process: test.process, name: 'Once', values: {} };
    const first = await maren.post('/deals', deal, 201, key);
    const again = await maren.post('/deals', deal, 201, key);
    expect(again.body.id).toBe(first.body.id);
    for (const [path, body, status] of [
      [`/deals/${first.body.id}/activities`, { kind: 'note', text: 'Once' }, 201],
      [`/deals/${first.body.id}/ticks`, { item: 'called', state: 'ticked' }, 200],
    ] as const)
      for (let repeat = 0; repeat < 2; repeat++) await maren.post(path, body, status, { 'Idempotency-Key': path });
    const { body } = await maren.get(`/deals/${first.body.id}/journal`);
    expect(body.items.map(({ kind }: { kind: string }) => kind)).toEqual(['ticked', 'activity', 'created']);
  });
});

describe('a database that takes connections and says nothing', () => {
  it('is known as one that does not answer, whichever of the driver’s clocks runs out first', async () => {
    const silent = createServer();
    await new Promise<void>((resolve) => silent.listen(0, '127.0.0.1', resolve));
    const { port } = silent.address() as AddressInfo;
    const address = { host: '127.0.0.1', port, connectionTimeoutMillis: 50 };
    const failures = await Promise.all([
      new pg.Client(address).connect().catch((error: unknown) => error),
      new pg.Pool(address).connect().catch((error: unknown) => error),
    ]);
    expect(failures.map(isConnectionLost)).toEqual([true, true]);
    silent.close();
  });
});
