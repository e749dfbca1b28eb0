import { randomUUID } from 'node:crypto';
import { type AddressInfo, connect, createServer } from 'node:net';
import { afterAll, beforeAll, expect, it } from 'vitest';
import { type RunningServer, startServer } from '../server.ts';
import { Client } from '../testing/client.ts';
import {
  DOCUMENT,
  PASSWORD,
  saveAndPublish,
  startTestServer,
  type TestServer,
  THREADS,
  testConfig,
} from '../testing/testServer.ts';

/* How often a press waits for the database: what is sent behind an answer, on connections that serve presses. */

let test: TestServer;
let server: RunningServer;
let maren: Client;
/** What one connection sent before it was answered. */
interface Sent {
  text: string;
}
let sent: Sent[] = [];

const watching = createServer((from) => {
  const to = connect(Number(new URL(test.database.serverUrl).port), '127.0.0.1');
  let unanswered: Sent | null = null;
  from.on('data', (part) => {
    if (!unanswered) {
      unanswered = { text: '' };
      sent.push(unanswered);
    }
    unanswered.text += part.toString('latin1');
  });
  to.on('data', () => {
    unanswered = null;
  });
  for (const [one, other] of [
    [from, to],
    [to, from],
  ] as const) {
    one.pipe(other);
    one.on('error', () => other.destroy());
    one.on('close', () => other.destroy());
  }
});

beforeAll(async () => {
  test = await startTestServer();
  await new Promise<void>((resolve) => watching.listen(0, '127.0.0.1', () => resolve()));
  const { port } = watching.address() as AddressInfo;
  const databaseUrl = Object.assign(new URL(test.database.serverUrl), { port: String(port) }).toString();
  server = await startServer({ ...testConfig(test.database), databaseUrl }, test.clock, THREADS);
  maren = await Client.signIn(server.url, 'maren@test.example', PASSWORD);
});
afterAll(async () => {
  await server.stop();
  watching.close();
  await test.stop();
});

/** The job queue and the threads look after their own. */
const OTHERS = /pgboss|long_work/;

/** The fewest of some tries: what the server does beside presses can only add to them. */
async function trips(doing: (turn: number) => Promise<unknown>): Promise<number> {
  const all: number[] = [];
  for (const turn of [0, 1, 2, 3, 4, 5, 6, 7]) all.push(await tripsOnce(() => doing(turn)));
  return Math.min(...all);
}

async function tripsOnce(doing: () => Promise<unknown>): Promise<number> {
  sent = [];
  await doing();
  return sent.filter(({ text }) => !OTHERS.test(text)).length;
}

/** As the web sends it: with a key. */
const press = (): Record<string, string> => ({ 'Idempotency-Key': randomUUID() });

it('is twice for a move and for an edit, and once for the page of a deal', async () => {
  const { body: begun } = await maren.post('/deals', { process: test.process, name: 'Counted', values: {} }, 201);
  const path = `/deals/${begun.id}`;
  let { revision } = begun;
  const { setting } = (await maren.get(path)).body;
  const stages: string[] = setting.told.document.stages.map(({ id }: { id: string }) => id);
  const move = async (stage: string | undefined): Promise<void> => {
    const body = { target: { to: 'stage', stage }, revision, mode: 'force', text: 'So it was' };
    ({ revision } = (await maren.post(`${path}/moves`, body, 200, press())).body.deal);
  };
  const edit = async (saw: string | null, value: string): Promise<void> => {
    const body = { changes: [{ field: 'next_action', saw, value }] };
    ({ revision } = (await maren.send('PATCH', path, body, 200, press())).body);
  };
  expect(await trips((turn) => move(stages[1 - (turn % 2)]))).toBe(2);
  expect(await trips((turn) => edit(turn === 0 ? null : `Ring ${turn - 1}`, `Ring ${turn}`))).toBe(2);
  expect(await trips(() => maren.get(path))).toBe(1);
});

it('asks for no setting that another server changed: it was told, and has read it', async () => {
  const { body: begun } = await maren.post('/deals', { process: test.process, name: 'Told', values: {} }, 201);
  const path = `/deals/${begun.id}`;
  const before = (await maren.get(path)).body.version.number;
  const asksForSetting = (): boolean => sent.some(({ text }) => text.includes('process_reasons'));
  const elsewhere = await test.as('maren');
  sent = [];
  await elsewhere.post(`/processes/${test.process}/draft`, {}, 201);
  await saveAndPublish(elsewhere, test.process, { ...DOCUMENT, purpose: 'Told anew' });
  await expect.poll(asksForSetting).toBe(true);
  sent = [];
  expect((await maren.get(path)).body.version.number).toBe(before + 1);
  expect(asksForSetting()).toBe(false);
});
