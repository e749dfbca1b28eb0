import { Agent, request } from 'node:http';
import { expect, it } from 'vitest';
import { startServer } from './server.ts';
import { Client } from './testing/client.ts';
import { asOwner } from './testing/testDatabase.ts';
import { PASSWORD, startTestServer, THREADS, testConfig } from './testing/testServer.ts';

it('stopping finishes the request in hand', async () => {
  const test = await startTestServer();
  const maren = await test.as('maren');
  const answered = new Promise<number | undefined>((resolve, reject) => {
    const path = `/api/v1/imports?fileName=slow.csv&process=${test.process}`;
    const sending = request(
      test.server.url + path,
      { method: 'POST', headers: { ...maren.headers, 'Content-Type': 'text/csv', Expect: '100-continue' } },
      (answer) => {
        answer.resume();
        resolve(answer.statusCode);
      },
    );
    sending.on('error', reject);
    // The server has the request in hand once it asks for the body.
    sending.on('continue', () => {
      sending.write('Name,Value\r\n');
      void test.stop();
      setTimeout(() => sending.end('North,1\r\n'), 300);
    });
    sending.flushHeaders();
  });
  expect(await answered).toBe(201);
});

it('an import that a killed server left unfinished begins again, and is there once', async () => {
  const test = await startTestServer();
  const maren = await test.as('maren');
  const { body } = await maren.post(`/imports?fileName=a.csv&process=${test.process}`, 'Ref,Name\r\nX1,North\r\n', 201);
  await test.server.stop();
  await asOwner(
    test.database,
    `insert into long_work (id, kind, subject, request, by_id, state, started_at)
     select gen_random_uuid(), 'import', id::text, $1, by_id, 'running', uploaded_at from imports where id = $2`,
    [JSON.stringify(body.preview.settings), body.import.id],
  );
  const again = await startServer(testConfig(test.database), test.clock, THREADS);
  const client = await Client.signIn(again.url, 'maren@test.example', PASSWORD);
  await expect
    .poll(async () => (await client.get(`/imports/${body.import.id}`)).body.state, { timeout: 20_000 })
    .toBe('done');
  expect((await client.get('/deals')).body.items).toHaveLength(1);
  await again.stop();
  await test.database.drop();
});

it('stopping under load on connections that stay open ends soon, each with its next answer', async () => {
  const test = await startTestServer();
  const agent = new Agent({ keepAlive: true, maxSockets: 4 });
  const ask = () =>
    new Promise<{ status: number; connection: string | undefined }>((resolve, reject) => {
      const sending = request(`${test.server.url}/api/v1/health`, { agent }, (answer) => {
        answer.resume();
        answer.on('end', () => resolve({ status: answer.statusCode ?? 0, connection: answer.headers.connection }));
      });
      sending.on('error', reject);
      sending.end();
    });
  let isStopped = false;
  const clients = Array.from({ length: 4 }, async () => {
    const answers = [];
    while (!isStopped) answers.push(await ask().catch(() => null));
    return answers;
  });
  for (let warm = 0; warm < 20; warm++) await ask();
  await test.stop();
  isStopped = true;
  const answers = (await Promise.all(clients)).flat().filter((answer) => answer !== null);
  expect(answers.filter(({ status }) => status === 200).length).toBeGreaterThan(0);
  for (const { status, connection } of answers) if (status === 503) expect(connection).toBe('close');
  agent.destroy();
});
