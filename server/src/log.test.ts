import { type ChildProcess, spawn } from 'node:child_process';
import { fileURLToPath } from 'node:url';
import { afterAll, beforeAll, expect, it } from 'vitest';
import { freePort } from '../../scripts/cluster.mjs';
import { Client } from './testing/client.ts';
import { PASSWORD, startTestServer, type TestServer } from './testing/testServer.ts';

let test: TestServer;
beforeAll(async () => {
  test = await startTestServer();
});
const started: ChildProcess[] = [];
afterAll(async () => {
  for (const server of started) server.kill('SIGKILL');
  await test.stop();
});

it.each(['info', 'trace'])(
  'at level %s nothing is written that lets anyone in, nor what anyone wrote',
  async (level) => {
    const port = await freePort();
    const env = { ...process.env, DATABASE_URL: test.database.serverUrl, PORT: String(port), LOG_LEVEL: level };
    const main = fileURLToPath(new URL('./main.ts', import.meta.url));
    const server = spawn('node', ['--import', 'tsx', main], { env, stdio: ['ignore', 'pipe', 'inherit'] });
    started.push(server);
    let log = '';
    server.stdout.on('data', (chunk) => {
      log += chunk;
    });
    await expect.poll(() => log, { timeout: 30_000 }).toContain('listening');
    const url = `http://127.0.0.1:${port}`;
    const maren = await Client.signIn(url, 'maren@test.example', PASSWORD);
    const deal = { process: test.process, name: 'Whispered name', values: {} };
    await maren.post('/deals', deal, 201, { 'Idempotency-Key': 'whispered-key' });
    await maren.get('/deals?find=Whispered');
    await fetch(`${url}/api/v1/deals`, {
      method: 'POST',
      headers: { ...maren.headers, 'Content-Type': 'application/json' },
      body: '{"name": "Whispered',
    });
    await Client.anonymous(url).send('POST', '/session', { email: 'maren@test.example', password: 'Whispered' }, 401);
    await expect.poll(() => log).toContain('POST 401');
    server.kill('SIGTERM');
    await new Promise((resolve) => server.once('exit', resolve));
    const [, cookie = ''] = (maren.headers.Cookie ?? '').split('=');
    expect(cookie.length).toBeGreaterThan(20);
    for (const secret of [cookie, maren.headers['X-Ladder-Token'] ?? '', PASSWORD, 'hispered', 'maren@'])
      expect(log).not.toContain(secret);
  },
);
