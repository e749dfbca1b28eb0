import { mkdirSync, mkdtempSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { brotliCompressSync } from 'node:zlib';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { type RunningServer, startServer } from '../server.ts';
import { movableClock } from '../testing/movableClock.ts';
import { createTestDatabase, type TestDatabase } from '../testing/testDatabase.ts';
import { THREADS, testConfig } from '../testing/testServer.ts';

let server: RunningServer;
let database: TestDatabase;
let webRoot: string;
beforeAll(async () => {
  webRoot = mkdtempSync(join(tmpdir(), 'ladder-web-'));
  mkdirSync(join(webRoot, 'assets'));
  writeFileSync(join(webRoot, 'index.html'), '<title>The application</title>');
  writeFileSync(join(webRoot, 'assets', 'main-abc.js'), 'export {};');
  writeFileSync(join(webRoot, 'assets', 'main-abc.js.br'), brotliCompressSync('export {};'));
  database = await createTestDatabase();
  server = await startServer(testConfig(database, { webRoot }), movableClock(), THREADS);
});
afterAll(async () => {
  await server.stop();
  rmSync(webRoot, { recursive: true });
});

const get = (path: string) => fetch(`${server.url}${path}`);

describe('the web application', () => {
  it('answers every address that is none of the API’s with its page, never kept', async () => {
    for (const path of ['/', '/deals', '/deals/some-id?toward=won', '/no/such/page']) {
      const answer = await get(path);
      expect([path, answer.status, await answer.text()]).toEqual([path, 200, '<title>The application</title>']);
      expect(answer.headers.get('Cache-Control')).toBe('no-cache');
    }
  });

  it('keeps what carries a hash in its name for a year', async () => {
    const answer = await get('/assets/main-abc.js');
    expect(answer.headers.get('Cache-Control')).toMatch(/max-age=31536000.*immutable/);
    expect(answer.headers.get('Content-Type')).toMatch(/javascript/);
  });

  it('comes compressed as it was built, to whoever reads that', async () => {
    const asked = (encoding: string) =>
      fetch(`${server.url}/assets/main-abc.js`, { headers: { 'Accept-Encoding': encoding } });
    const [packed, plain] = [await asked('br'), await asked('identity')];
    expect([packed.headers.get('Content-Encoding'), plain.headers.get('Content-Encoding')]).toEqual(['br', null]);
    expect(packed.headers.get('Content-Type')).toMatch(/javascript/);
    expect(packed.headers.get('Cache-Control')).toMatch(/max-age=31536000.*immutable/);
    expect([await packed.text(), await plain.text()]).toEqual(['export {};', 'export {};']);
  });

  it('leaves its folder closed above', async () => {
    const answer = await get('/assets/..%2f..%2f..%2fetc%2fpasswd');
    expect(await answer.text()).not.toContain('root:');
  });

  it('is framed by nobody, and runs no script but its own', async () => {
    const { headers } = await get('/');
    const policy = headers.get('Content-Security-Policy') ?? '';
    expect(policy).toContain("default-src 'self'");
    expect(policy).toContain("script-src 'self'");
    expect(policy).toContain("frame-ancestors 'self'");
    expect(headers.get('X-Content-Type-Options')).toBe('nosniff');
    expect(headers.get('X-Powered-By')).toBeNull();
  });
});

describe('the API', () => {
  it('is never kept by anyone on the way', async () => {
    expect((await get('/api/v1/health')).headers.get('Cache-Control')).toBe('no-store');
  });

  it('compresses large answers, and small ones not: the session’s token is never among them', async () => {
    const [large, small] = [await get('/api/v1/openapi.json'), await get('/api/v1/session')];
    expect(large.headers.get('Content-Encoding')).toMatch(/br|gzip/);
    expect(await large.json()).toHaveProperty('paths');
    expect(small.headers.get('Content-Encoding')).toBeNull();
  });

  it('refuses a body larger than it reads, before it is read', async () => {
    const answer = await fetch(`${server.url}/api/v1/session`, {
      method: 'POST',
      headers: { 'Content-Type': 'application/json' },
      body: JSON.stringify({ email: 'a@b.example', password: 'x'.repeat(3 * 1024 * 1024) }),
    });
    expect(answer.status).toBe(413);
    expect(await answer.json()).toMatchObject({ status: 413, detail: expect.stringContaining('larger') });
  });

  it('says so where the database does not answer, and tells nobody more', async () => {
    await database.drop();
    const answer = await get('/api/v1/health');
    expect(answer.status).toBe(503);
    expect(answer.headers.get('Content-Type')).toContain('application/problem+json');
    expect(await answer.json()).toEqual({
      type: 'about:blank',
      title: 'Try again',
      status: 503,
      detail: 'The database does not answer.',
    });
  });
});
