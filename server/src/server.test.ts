import { request } from 'node:http';
import { expect, it } from 'vitest';
import { startServer } from './server.ts';
import { Client } from './testing/client.ts';
import { asOwner } from './testing/testDatabase.ts';
import { PASSWORD, startTestServer } from './testing/testServer.ts';

it('stopping finishes the request in hand', async () => {
  const test = await startTestServer();
  const maren = await test.as('maren');
  const answered = new Promise<number | undefined>((resolve, reject) => {
    const path = `/api/v1/imports?fileName=slow.csv&process=${test.process}`;
    const sending = request(
      test.server.url + path,
      { method: 'POST', headers: { ...maren.headers, 'Content-Type': 'text/csv' } },
      (answer) => {
        answer.resume();
        resolve(answer.statusCode);
      },
    );
    sending.on('error', reject);
    sending.write('Name,Value\r\n', () => {
      void test.stop();
      setTimeout(() => sending.end('North,1\r\n'), 300);
    });
  });
  expect(await answered).toBe(201);
});

it('an import that a killed server left unfinished begins again, and is there once', async () => {
  const test = await startTestServer();
  const maren = await test.as('maren');
  const { body } = await maren.post(`/imports?fileName=a.csv&process=${test.process}`, 'Ref,Name\r\nX1,North\r\n', 201);
  await test.server.stop();
  await asOwner(test.database, `update imports set state = 'running', settings = $1 where id = $2`, [
    JSON.stringify(body.preview.settings),
    body.import.id,
  ]);
  const again = await startServer(
    { host: '127.0.0.1', port: 0, databaseUrl: test.database.serverUrl, webRoot: null, logLevel: 'silent' },
    test.clock,
  );
  const client = await Client.signIn(again.url, 'maren@test.example', PASSWORD);
  await expect
    .poll(async () => (await client.get(`/imports/${body.import.id}`)).body.state, { timeout: 20_000 })
    .toBe('done');
  expect((await client.get('/deals')).body.items).toHaveLength(1);
  await again.stop();
  await test.database.drop();
});
